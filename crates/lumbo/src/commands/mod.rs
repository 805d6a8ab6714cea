//! One file per command.

pub mod check;
pub mod clock;
pub mod field;
pub mod format;
pub mod formula;
pub mod people;
pub mod place;
pub mod read;
pub mod rehearse;
pub mod route;
pub mod score;
pub mod serve;
mod spec;

use anyhow::Result;
use serde::Serialize;

use crate::Done;

/// Options of a command that comes later; anything is taken, so that the answer is always that it comes later.
#[derive(clap::Args)]
pub struct Later {
    /// Ignored.
    #[arg(trailing_var_arg = true, allow_hyphen_values = true, hide = true)]
    _rest: Vec<String>,
}

/// Prints a value as one pretty JSON document.
pub fn print(value: &impl Serialize) -> Done {
    println!("{}", serde_json::to_string_pretty(value)?);
    Ok(false)
}

/// Prints a value as one line of JSON.
pub fn print_line(value: &impl Serialize) -> Result<()> {
    println!("{}", serde_json::to_string(value)?);
    Ok(())
}
