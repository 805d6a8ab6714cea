//! File lead made ready.

use super::FileLead;
use crate::plan::compile::{Compiler, Wrong};
use crate::plan::{FileNode, Kind};

pub(super) fn compile(file: &FileLead, compiler: &mut Compiler<'_>, _at: &str) -> Result<Kind, Wrong> {
    let (cards, default) = (&compiler.file.scorecards, compiler.file.default_card_place());
    let card = match &file.scorecard {
        None if cards.len() > 1 && default.is_none() => {
            let says = "this dialogue has several scorecards: name one here, or say which is the default";
            return Err(("target", says.to_owned()));
        }
        None => default,
        Some(id) => {
            let place = cards.iter().position(|card| card.id == *id);
            Some(place.ok_or_else(|| ("target", format!("there is no scorecard “{id}”")))?)
        }
    };
    Ok(Kind::FileLead(FileNode { card, early: file.early }))
}
