//! Types of a formula, checked when it is written.

use super::parse::{Kind, Node};
use super::{FormulaError, Names, Type, cell_number};
use lumbo_value::{FieldType, Table};

/// The functions, with the arguments each takes.
const FUNCTIONS: [(&str, usize, usize); 29] = [
    ("IF", 2, 3),
    ("AND", 1, 50),
    ("OR", 1, 50),
    ("NOT", 1, 1),
    ("MIN", 1, 50),
    ("MAX", 1, 50),
    ("SUM", 1, 50),
    ("ROUND", 1, 2),
    ("ROUNDUP", 1, 2),
    ("ROUNDDOWN", 1, 2),
    ("INT", 1, 1),
    ("MOD", 2, 2),
    ("ABS", 1, 1),
    ("LEN", 1, 1),
    ("LEFT", 1, 2),
    ("RIGHT", 1, 2),
    ("MID", 3, 3),
    ("LOWER", 1, 1),
    ("UPPER", 1, 1),
    ("TRIM", 1, 1),
    ("CONTAINS", 2, 2),
    ("TODAY", 0, 0),
    ("DATE", 3, 3),
    ("DAYS", 2, 2),
    ("MONEY", 1, 2),
    ("LOOKUP", 3, 3),
    ("ISMISSING", 1, 1),
    ("COALESCE", 1, 50),
    ("SWITCH", 3, 101),
];

fn fail<T>(node: &Node, says: impl Into<String>) -> Result<T, FormulaError> {
    Err(FormulaError { at: node.at, says: says.into() })
}

pub(super) fn check(node: &Node, names: Names<'_>) -> Result<Type, FormulaError> {
    match &node.kind {
        Kind::Number(_) => Ok(Type::Number),
        Kind::Text(_) => Ok(Type::Text),
        Kind::YesNo(_) => Ok(Type::YesNo),
        Kind::Name(name) => match names.fields.iter().find(|field| field.key == *name) {
            Some(field) => Ok(Type::of(field.kind)),
            None => fail(node, format!("there is no field “{name}”{}", near(name, names))),
        },
        Kind::Negate(inner) => match check(inner, names)? {
            found @ (Type::Number | Type::Money) => Ok(found),
            found => fail(inner, format!("expected a number after “-”, found {}", found.name())),
        },
        Kind::Percent(inner) => need(inner, Type::Number, names).map(|()| Type::Number),
        Kind::Binary(mark, left, right) => binary(node, mark, left, right, names),
        Kind::Call(name, arguments) => call(node, name, arguments, names),
    }
}

fn need(node: &Node, wanted: Type, names: Names<'_>) -> Result<(), FormulaError> {
    let found = check(node, names)?;
    if found == wanted { Ok(()) } else { fail(node, format!("expected {}, found {}", wanted.name(), found.name())) }
}

fn binary(node: &Node, mark: &str, left: &Node, right: &Node, names: Names<'_>) -> Result<Type, FormulaError> {
    let (a, b) = (check(left, names)?, check(right, names)?);
    match (mark, a, b) {
        ("+" | "-", Type::Number, Type::Number)
        | ("*" | "/" | "^", Type::Number, Type::Number)
        | ("/", Type::Money, Type::Money)
        | ("-", Type::Date, Type::Date) => Ok(Type::Number),
        ("+" | "-", Type::Money, Type::Money)
        | ("*" | "/", Type::Money, Type::Number)
        | ("*", Type::Number, Type::Money) => Ok(Type::Money),
        ("+" | "-", Type::Date, Type::Number) | ("+", Type::Number, Type::Date) => Ok(Type::Date),
        (
            "&",
            Type::Text | Type::Number | Type::Money | Type::Date,
            Type::Text | Type::Number | Type::Money | Type::Date,
        ) => Ok(Type::Text),
        ("=" | "<>", a, b) if a == b && a != Type::List => {
            option_exists(left, right, names)?;
            option_exists(right, left, names)?;
            Ok(Type::YesNo)
        }
        ("<" | "<=" | ">" | ">=", a, b) if a == b && !matches!(a, Type::List | Type::YesNo) => Ok(Type::YesNo),
        (mark, a, b) => fail(node, format!("“{mark}” cannot join {} and {}", a.name(), b.name())),
    }
}

/// A text literal beside a choice must be one of its option keys.
fn option_exists(field: &Node, literal: &Node, names: Names<'_>) -> Result<(), FormulaError> {
    let (Kind::Name(name), Kind::Text(text)) = (&field.kind, &literal.kind) else { return Ok(()) };
    let Some(field) = names.fields.iter().find(|field| field.key == *name && field.kind == FieldType::Choice) else {
        return Ok(());
    };
    if field.options.iter().any(|option| option.key.eq_ignore_ascii_case(text)) {
        return Ok(());
    }
    let keys: Vec<&str> = field.options.iter().map(|option| option.key.as_str()).collect();
    fail(literal, format!("{} has no option “{text}”; it has {}", field.key, keys.join(", ")))
}

/// " (did you mean …)" where a field or function is one slip away.
fn near(name: &str, names: Names<'_>) -> String {
    names
        .fields
        .iter()
        .find(|field| strsim::damerau_levenshtein(&field.key, &name.to_lowercase()) <= 2)
        .map_or_else(String::new, |field| format!("; did you mean “{}”?", field.key))
}

fn call(node: &Node, name: &str, arguments: &[Node], names: Names<'_>) -> Result<Type, FormulaError> {
    let Some((_, least, most)) = FUNCTIONS.iter().find(|(known, ..)| *known == name) else {
        let near = FUNCTIONS
            .iter()
            .find(|(known, ..)| strsim::damerau_levenshtein(known, name) <= 1)
            .map_or_else(String::new, |(known, ..)| format!("; did you mean {known}?"));
        return fail(node, format!("there is no function {name}{near}"));
    };
    if !(least..=most).contains(&&arguments.len()) {
        let takes = match (least, most) {
            (least, most) if least == most => format!("{least}"),
            (least, most) => format!("{least} to {most}"),
        };
        return fail(node, format!("{name} takes {takes} values, found {}", arguments.len()));
    }
    let each = |wanted: Type| arguments.iter().try_for_each(|argument| need(argument, wanted, names));
    let text_then_numbers = || {
        need(&arguments[0], Type::Text, names)?;
        arguments[1..].iter().try_for_each(|argument| need(argument, Type::Number, names))
    };
    match name {
        "IF" => {
            need(&arguments[0], Type::YesNo, names)?;
            same(&arguments[1..], names)
        }
        "AND" | "OR" | "NOT" => each(Type::YesNo).map(|()| Type::YesNo),
        "MIN" | "MAX" | "SUM" => match same(arguments, names)? {
            found @ (Type::Number | Type::Money) => Ok(found),
            Type::Date if name != "SUM" => Ok(Type::Date),
            found => fail(&arguments[0], format!("{name} takes numbers, found {}", found.name())),
        },
        "ROUND" | "ROUNDUP" | "ROUNDDOWN" => {
            arguments.get(1).map_or(Ok(()), |digits| need(digits, Type::Number, names))?;
            amount(&arguments[0], names)
        }
        "ABS" => amount(&arguments[0], names),
        "INT" | "MOD" => each(Type::Number).map(|()| Type::Number),
        "LEN" => match check(&arguments[0], names)? {
            Type::Text | Type::List => Ok(Type::Number),
            found => fail(&arguments[0], format!("expected text or a list, found {}", found.name())),
        },
        "LEFT" | "RIGHT" | "MID" => text_then_numbers().map(|()| Type::Text),
        "LOWER" | "UPPER" | "TRIM" => each(Type::Text).map(|()| Type::Text),
        "CONTAINS" => match check(&arguments[0], names)? {
            Type::Text | Type::List => need(&arguments[1], Type::Text, names).map(|()| Type::YesNo),
            found => fail(&arguments[0], format!("expected text or a list, found {}", found.name())),
        },
        "TODAY" => Ok(Type::Date),
        "DATE" => each(Type::Number).map(|()| Type::Date),
        "DAYS" => each(Type::Date).map(|()| Type::Number),
        "MONEY" => {
            need(&arguments[0], Type::Number, names)?;
            arguments.get(1).map_or(Ok(()), |code| match &code.kind {
                Kind::Text(text) if text.len() == 3 && text.bytes().all(|b| b.is_ascii_uppercase()) => Ok(()),
                _ => fail(code, "expected a currency's code such as \"GBP\""),
            })?;
            Ok(Type::Money)
        }
        "LOOKUP" => lookup(arguments, names),
        "ISMISSING" => check(&arguments[0], names).map(|_| Type::YesNo),
        "COALESCE" => same(arguments, names),
        _ => switch(node, arguments, names),
    }
}

fn amount(node: &Node, names: Names<'_>) -> Result<Type, FormulaError> {
    match check(node, names)? {
        found @ (Type::Number | Type::Money) => Ok(found),
        found => fail(node, format!("expected a number, found {}", found.name())),
    }
}

fn same(nodes: &[Node], names: Names<'_>) -> Result<Type, FormulaError> {
    let mut first = None;
    for node in nodes {
        let found = check(node, names)?;
        match first {
            None => first = Some(found),
            Some(wanted) if wanted == found => {}
            Some(wanted) => {
                return fail(
                    node,
                    format!("expected {} like the value before it, found {}", wanted.name(), found.name()),
                );
            }
        }
    }
    Ok(first.unwrap_or(Type::Text))
}

fn switch(node: &Node, arguments: &[Node], names: Names<'_>) -> Result<Type, FormulaError> {
    let wanted = check(&arguments[0], names)?;
    let pairs = &arguments[1..];
    let mut results = Vec::new();
    for pair in pairs.chunks(2) {
        match pair {
            [case, result] => {
                need(case, wanted, names)?;
                option_exists(&arguments[0], case, names)?;
                results.push(result.clone());
            }
            [otherwise] => results.push(otherwise.clone()),
            _ => return fail(node, "SWITCH takes a value, then cases with results"),
        }
    }
    same(&results, names)
}

fn lookup(arguments: &[Node], names: Names<'_>) -> Result<Type, FormulaError> {
    let Kind::Name(table_key) = &arguments[1].kind else { return fail(&arguments[1], "expected the name of a table") };
    let Some(table) = names.tables.iter().find(|table| table.key == *table_key) else {
        return fail(&arguments[1], format!("there is no table “{table_key}”"));
    };
    let Kind::Name(column) = &arguments[2].kind else { return fail(&arguments[2], "expected the name of a column") };
    let Some(index) = table.columns.iter().position(|known| known == column) else {
        return fail(
            &arguments[2],
            format!("the table {table_key} has no column “{column}”; it has {}", table.columns.join(", ")),
        );
    };
    let wanted = column_type(table, 0);
    let found = check(&arguments[0], names)?;
    if found != wanted {
        return fail(
            &arguments[0],
            format!("the table's first column holds {}, found {}", wanted.name(), found.name()),
        );
    }
    Ok(column_type(table, index))
}

/// A column whose cells are all decimal numbers is a number, else text.
pub(super) fn column_type(table: &Table, index: usize) -> Type {
    let numbers = !table.rows.is_empty()
        && table.rows.iter().all(|row| row.get(index).is_some_and(|cell| cell_number(cell).is_some()));
    if numbers { Type::Number } else { Type::Text }
}
