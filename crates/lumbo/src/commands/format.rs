//! `lumbo format`.

use std::path::PathBuf;

use lumbo_dialogue::file::canonical;

use crate::{Done, input};

/// Options.
#[derive(clap::Args)]
pub struct Options {
    /// A dialogue file, or - for standard input.
    file: PathBuf,
    /// Accepted for uniformity; the canonical form is JSON already.
    #[arg(long)]
    json: bool,
}

/// Writes the canonical form.
pub fn run(options: &Options) -> Done {
    let _ = options.json;
    print!("{}", canonical(&input::dialogue(&options.file)?));
    Ok(false)
}
