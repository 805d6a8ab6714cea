//! Ask made ready.

use lumbo_reading::Reader;
use lumbo_value::text::Piece;

use super::{Ask, IfKnown};
use crate::plan::Kind;
use crate::plan::ReadyWayOut;
use crate::plan::compile::{Compiler, Wrong};
use crate::plan::readers::Narrowed;

/// An Ask made ready.
#[derive(Debug, Clone)]
pub struct AskNode {
    /// The wordings.
    pub say: Vec<Vec<Piece>>,
    /// The question in short.
    pub short: Option<Vec<Piece>>,
    /// Why we ask.
    pub why: Option<Vec<Piece>>,
    /// The field's index.
    pub field: usize,
    /// Reads the reply.
    pub reader: Reader,
    /// Failed tries before the way out.
    pub tries: u8,
    /// Where it leads then.
    pub way_out: ReadyWayOut,
    /// Label of the skip.
    pub skip: Option<Vec<Piece>>,
    /// When the field is known already.
    pub if_known: IfKnown,
    /// Side-talk answers but never leaves while this is open.
    pub held: bool,
}

pub(super) fn compile(ask: &Ask, compiler: &mut Compiler<'_>, at: &str) -> Result<Kind, Wrong> {
    let field = compiler.field(&ask.field)?;
    let narrows = Narrowed { rules: &ask.rules, loosens: &ask.loosens, only: &ask.only, messages: &ask.messages };
    let reader = compiler.reader(&compiler.file.fields[field], narrows)?;
    let way_out = compiler.way_out(&ask.way_out, &ask.arms, at)?;
    if !(1..=10).contains(&ask.tries) {
        compiler.fault("rule", at, "an ask allows 1 to 10 tries");
    }
    Ok(Kind::Ask(Box::new(AskNode {
        say: compiler.wordings(&ask.say, at),
        short: ask.short.as_ref().map(|text| compiler.text(text, at)),
        why: ask.why.as_ref().map(|text| compiler.text(text, at)),
        field,
        reader,
        tries: ask.tries.clamp(1, 10),
        way_out,
        skip: ask.skip.as_ref().map(|text| compiler.text(text, at)),
        if_known: ask.if_known,
        held: ask.held,
    })))
}
