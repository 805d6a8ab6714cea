//! Work out made ready.

use lumbo_formula::{Names, Type};

use super::WorkOut;
use crate::plan::Kind;
use crate::plan::compile::{Compiler, Wrong};

pub(super) fn compile(work: &WorkOut, compiler: &mut Compiler<'_>, _at: &str) -> Result<Kind, Wrong> {
    let mut fills = Vec::new();
    for fill in &work.fills {
        let field = compiler.field(&fill.field)?;
        let definition = &compiler.file.fields[field];
        let names = Names { fields: &compiler.file.fields, tables: &compiler.file.tables };
        let formula = lumbo_formula::compile(&fill.formula, names)
            .map_err(|error| ("formula", format!("{}: {error}", definition.label)))?;
        let wanted = Type::of(definition.kind);
        if formula.gives() != wanted {
            let (label, gives) = (&definition.label, formula.gives().name());
            return Err(("formula", format!("{label} keeps {}; this formula gives {gives}", wanted.name())));
        }
        let formula = match &fill.starts {
            None => formula,
            Some(starts) => {
                let label = &definition.label;
                let start = lumbo_formula::compile(starts, names)
                    .map_err(|error| ("formula", format!("{label}, where it starts: {error}")))?;
                if start.gives() != wanted {
                    let (gives, wanted) = (start.gives().name(), wanted.name());
                    return Err(("formula", format!("{label} keeps {wanted}; where it starts gives {gives}")));
                }
                formula.starting(&definition.key, &start)
            }
        };
        fills.push((field, formula));
    }
    Ok(Kind::WorkOut(fills))
}
