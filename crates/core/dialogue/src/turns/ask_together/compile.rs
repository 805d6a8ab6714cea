//! Ask together made ready.

use lumbo_reading::Reader;
use lumbo_value::text::Piece;

use super::AskTogether;
use crate::plan::Kind;
use crate::plan::ReadyWayOut;
use crate::plan::compile::{Compiler, Wrong};
use crate::plan::readers::Narrowed;

/// An Ask together made ready.
#[derive(Debug, Clone)]
pub struct FormNode {
    /// The line above the form.
    pub say: Vec<Vec<Piece>>,
    /// Its fields.
    pub fields: Vec<FormFieldNode>,
    /// Failed tries before the way out.
    pub tries: u8,
    /// Where it leads then.
    pub way_out: ReadyWayOut,
}

/// One field of a form.
#[derive(Debug, Clone)]
pub struct FormFieldNode {
    /// The field's index.
    pub field: usize,
    /// Its label on the form.
    pub label: String,
    /// Reads what was written.
    pub reader: Reader,
}

pub(super) fn compile(form: &AskTogether, compiler: &mut Compiler<'_>, at: &str) -> Result<Kind, Wrong> {
    if form.fields.is_empty() {
        compiler.fault("text", at, "this form has no fields");
    }
    let mut fields = Vec::new();
    for wanted in &form.fields {
        let field = compiler.field(&wanted.field)?;
        let definition = &compiler.file.fields[field];
        let label = match &wanted.label {
            Some(label) => label.get(compiler.language, compiler.language).to_owned(),
            None => definition.label.clone(),
        };
        let narrows = Narrowed { rules: &wanted.rules, loosens: &wanted.loosens, ..Narrowed::default() };
        fields.push(FormFieldNode { field, label, reader: compiler.reader(definition, narrows)? });
    }
    let way_out = compiler.way_out(&form.way_out, &[], at)?;
    let (say, tries) = (compiler.wordings(&form.say, at), form.tries.clamp(1, 10));
    Ok(Kind::AskTogether(Box::new(FormNode { say, fields, tries, way_out })))
}
