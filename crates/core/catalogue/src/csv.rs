//! The catalogue as CSV (RFC 4180, UTF-8, a header line): one field a line. What is written reads back as the same
//! fields.
//!
//! | column | what |
//! |---|---|
//! | id | the field's id; empty for a new field |
//! | key | its name in conditions, formulas and texts |
//! | label | its name for people |
//! | type | one of the type names of the documentation |
//! | options | `key=Words; key=Words` in the column's language; where there is more to say, the file's JSON |
//! | language | of the options' words; `en` where empty |
//! | unit, currency | see the dialogue file |
//! | personal | `yes` or `no` |
//! | record | `lead`, `contact` or `company`; empty for where the type belongs |
//! | policy | what a newer value does: `take_newest`, `keep_first`, `add_to_list`, `take_highest` |
//! | rules | the JSON of the dialogue file; empty for none |
//! | may_loosen | keys of the rules that an ask may leave out, separated by spaces |
//! | permits | what a yes to a consent permits: `marketing: mail text`; empty for the enquiry, in every way |
//! | description | what it is for |
//!
//! A cell that a spreadsheet would take for a formula is written with an apostrophe before it, which is taken off
//! again.

use csv::ReaderBuilder;
use lumbo_deliver::table;

use super::{FIELD_LIMIT, faults};
use lumbo_dialogue::file::{Choice, Field, FieldType, Text};
use lumbo_outline::gesture::fields::fresh_key;
use lumbo_value::field::{Policy, Record};
use lumbo_value::permits::Permits;

/// The columns, in the order they are written; read in any order, by name.
pub const COLUMNS: [&str; 15] = [
    "id",
    "key",
    "label",
    "type",
    "options",
    "language",
    "unit",
    "currency",
    "personal",
    "record",
    "policy",
    "rules",
    "may_loosen",
    "permits",
    "description",
];

/// Largest file, bytes.
pub const CSV_LIMIT: usize = 2 * 1024 * 1024;

/// A file that cannot be read as a catalogue at all.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum CsvError {
    /// Too large.
    #[error("a catalogue has at most {FIELD_LIMIT} lines and 2 MB")]
    TooLarge,
    /// A column that must be there is not.
    #[error("there is no column “{0}”; the first line names the columns: key, label, type and others")]
    NoColumn(&'static str),
    /// A column that nobody knows.
    #[error(
        "nobody knows the column “{0}”; the columns are id, key, label, type, options, language, unit, currency, \
         personal, record, policy, rules, may_loosen, permits and description"
    )]
    UnknownColumn(String),
    /// Not CSV.
    #[error("line {line}: {says}")]
    Broken {
        /// The line, from 1.
        line: u64,
        /// What is wrong.
        says: String,
    },
}

/// One line as it was read.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct CsvRow {
    /// The line, from 1.
    pub line: u64,
    /// The field, or what is wrong with the line.
    pub field: Result<Field, Vec<String>>,
}

/// Writes fields as CSV.
#[must_use]
pub fn to_csv(fields: &[Field]) -> String {
    let mut lines = Vec::with_capacity(fields.len());
    for field in fields {
        let (options, language) = options_cell(&field.options);
        let json = |value: serde_json::Result<String>| value.unwrap_or_default();
        let cells = [
            field.id.clone(),
            field.key.clone(),
            field.label.clone(),
            field.kind.name().to_owned(),
            options,
            language,
            field.unit.clone().unwrap_or_default(),
            field.currency.clone().unwrap_or_default(),
            if field.personal { "yes" } else { "no" }.to_owned(),
            match field.record {
                Record::Lead => "lead",
                Record::Contact => "contact",
                Record::Company => "company",
            }
            .to_owned(),
            if field.policy.is_usual() { String::new() } else { field.policy.name().to_owned() },
            if field.rules.is_empty() { String::new() } else { json(serde_json::to_string(&field.rules)) },
            field.may_loosen.join(" "),
            field.permits.as_ref().map(Permits::cell).unwrap_or_default(),
            field.note.clone().unwrap_or_default(),
        ];
        lines.push(cells);
    }
    table::csv(&COLUMNS, lines)
}

/// Reads a catalogue. A line without an id means the known field with its key, else a new one.
///
/// # Errors
/// A [`CsvError`] where it is no catalogue; what is wrong with single lines stands in their rows.
pub fn from_csv(text: &str, known: &[Field]) -> Result<Vec<CsvRow>, CsvError> {
    if text.len() > CSV_LIMIT {
        return Err(CsvError::TooLarge);
    }
    let text = text.trim_start_matches('\u{feff}');
    // Spreadsheets of many countries write semicolons.
    let first = text.lines().next().unwrap_or_default();
    let delimiter = if first.contains(';') && !first.contains(',') { b';' } else { b',' };
    let mut reader = ReaderBuilder::new().delimiter(delimiter).flexible(true).from_reader(text.as_bytes());
    let broken = |error: &csv::Error| CsvError::Broken {
        line: error.position().map_or(1, csv::Position::line),
        says: "this is not CSV".to_owned(),
    };
    let headers: Vec<String> =
        reader.headers().map_err(|error| broken(&error))?.iter().map(|name| name.trim().to_lowercase()).collect();
    if let Some(unknown) = headers.iter().find(|name| !name.is_empty() && !COLUMNS.contains(&name.as_str())) {
        return Err(CsvError::UnknownColumn(unknown.chars().take(40).collect()));
    }
    for needed in ["key", "label", "type"] {
        if !headers.iter().any(|name| name == needed) {
            return Err(CsvError::NoColumn(needed));
        }
    }
    let mut rows: Vec<CsvRow> = Vec::new();
    let mut fields: Vec<Field> = known.to_vec();
    let mut seen: Vec<String> = Vec::new();
    for record in reader.records() {
        let record = record.map_err(|error| broken(&error))?;
        let line = record.position().map_or(0, csv::Position::line);
        let cell = |name: &str| {
            headers
                .iter()
                .position(|header| header == name)
                .and_then(|place| record.get(place))
                .map_or("", |cell| table::plain(cell.trim()))
        };
        if record.iter().all(|cell| cell.trim().is_empty()) {
            continue;
        }
        if rows.len() >= FIELD_LIMIT {
            return Err(CsvError::TooLarge);
        }
        let field = read(&cell, &fields).and_then(|field| {
            let mut wrong = faults(&field, &fields);
            if seen.contains(&field.id) {
                wrong.push("this field stands on an earlier line already".to_owned());
            }
            if wrong.is_empty() { Ok(field) } else { Err(wrong) }
        });
        if let Ok(field) = &field {
            seen.push(field.id.clone());
            match fields.iter_mut().find(|known| known.id == field.id) {
                Some(known) => known.clone_from(field),
                None => fields.push(field.clone()),
            }
        }
        rows.push(CsvRow { line, field });
    }
    Ok(rows)
}

fn read<'a>(cell: &impl Fn(&str) -> &'a str, known: &[Field]) -> Result<Field, Vec<String>> {
    let mut wrong = Vec::new();
    let (id, key, label) = (cell("id"), cell("key"), cell("label"));
    let kind =
        FieldType::ALL.into_iter().find(|kind| kind.name() == cell("type").to_lowercase().replace([' ', '-'], "_"));
    let kind = kind.unwrap_or_else(|| {
        let names: Vec<&str> = FieldType::ALL.iter().map(|kind| kind.name()).collect();
        wrong.push(format!("“{}” is not a type; the types are {}", short(cell("type")), names.join(", ")));
        FieldType::Text
    });
    let id = match known.iter().find(|field| if id.is_empty() { field.key == key } else { field.id == id }) {
        Some(field) => field.id.clone(),
        None if id.is_empty() => {
            let taken: Vec<String> = known.iter().map(|field| field.id.clone()).collect();
            fresh_key(&format!("fld_{key}"), &taken, "fld")
        }
        None => id.to_owned(),
    };
    let mut field = Field::plain(id, key.to_owned(), label.to_owned(), kind);
    let language = if cell("language").is_empty() { "en" } else { cell("language") };
    let text = |name: &str| Some(cell(name).to_owned()).filter(|text| !text.is_empty());
    match options_of(cell("options"), language) {
        Ok(options) => field.options = options,
        Err(says) => wrong.push(says),
    }
    field.unit = text("unit");
    field.currency = text("currency").map(|code| code.to_uppercase());
    field.note = text("description");
    match cell("personal").to_lowercase().as_str() {
        "" => {}
        "yes" | "true" | "1" => field.personal = true,
        "no" | "false" | "0" => field.personal = false,
        other => wrong.push(format!("personal is yes or no, not “{}”", short(other))),
    }
    match cell("record").to_lowercase().as_str() {
        "" => {}
        "lead" => field.record = Record::Lead,
        "contact" => field.record = Record::Contact,
        "company" => field.record = Record::Company,
        other => wrong.push(format!("a record is lead, contact or company, not “{}”", short(other))),
    }
    let policy = cell("policy").to_lowercase();
    match Policy::ALL.into_iter().find(|known| known.name() == policy) {
        Some(known) => field.policy = known,
        None if policy.is_empty() => {}
        None => wrong.push(format!(
            "a policy is take_newest, keep_first, add_to_list or take_highest, not “{}”",
            short(&policy)
        )),
    }
    if !cell("rules").is_empty() {
        match serde_json::from_str(cell("rules")) {
            Ok(rules) => field.rules = rules,
            Err(error) => wrong.push(format!("the rules are not as in a dialogue file: {error}")),
        }
    }
    if !cell("permits").is_empty() {
        match Permits::of_cell(cell("permits")) {
            Some(permits) => field.permits = Some(permits),
            None => wrong.push(format!(
                "what a consent permits is written as “marketing: mail text”, with enquiry or marketing, and call, \
                 mail or text; not as “{}”",
                short(cell("permits"))
            )),
        }
    }
    field.may_loosen = cell("may_loosen").split_whitespace().map(str::to_owned).collect();
    if wrong.is_empty() { Ok(field) } else { Err(wrong) }
}

fn short(text: &str) -> String {
    text.chars().take(40).collect()
}

/// Options as a person would write them, where that loses nothing.
fn options_cell(options: &[Choice]) -> (String, String) {
    let Some(language) = options.first().and_then(|option| option.label.0.keys().next()).cloned() else {
        return (String::new(), String::new());
    };
    let plain = |option: &Choice| {
        let words = option.label.0.get(&language)?;
        let simple =
            option.label.0.len() == 1 && option.also.is_empty() && option.hint.is_none() && option.picture.is_none();
        let signs = words.contains(['=', ';']) || words.trim() != words || words.is_empty();
        (simple && !signs).then(|| format!("{}={words}", option.key))
    };
    match options.iter().map(plain).collect::<Option<Vec<_>>>() {
        Some(cells) => (cells.join("; "), language),
        None => (serde_json::to_string(options).unwrap_or_default(), String::new()),
    }
}

fn options_of(cell: &str, language: &str) -> Result<Vec<Choice>, String> {
    if cell.starts_with('[') {
        return serde_json::from_str(cell)
            .map_err(|error| format!("the options are not as in a dialogue file: {error}"));
    }
    let mut taken: Vec<String> = Vec::new();
    let one = |part: &str| {
        let (key, words) = part
            .split_once('=')
            .map_or_else(|| (fresh_key(part, &taken, "option"), part), |(key, words)| (key.trim().to_owned(), words));
        taken.push(key.clone());
        Choice { key, label: Text::new(language, words.trim()), also: Vec::new(), hint: None, picture: None }
    };
    Ok(cell.split(';').map(str::trim).filter(|part| !part.is_empty()).map(one).collect())
}
