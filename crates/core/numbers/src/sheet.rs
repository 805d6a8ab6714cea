//! Past leads from a CSV file: what its columns hold, and its rows as leads. Nothing of it becomes a lead.

use std::collections::HashMap;

use csv::{Reader as CsvReader, ReaderBuilder};
use jiff::Timestamp;
use jiff::civil::Date;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use uuid::Uuid;

use lumbo_reading::{ReadContext, Reader, ReaderSpec, Reading};
use lumbo_value::{Field, Value};

use crate::{End, Filed, PastLeads};

/// Largest file, bytes.
pub const LIMIT: usize = 3 * 1024 * 1024;
/// Most rows.
pub const ROWS: usize = 50_000;
/// Most columns.
const COLUMNS: usize = 200;
/// Most different words of a column that are listed.
const LISTED: usize = 24;
/// Most rows that are named as bad.
const NAMED: usize = 200;

/// Why a file cannot be read.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum SheetError {
    /// Too large.
    #[error("a file of past leads has at most {} rows and 3 MB", ROWS)]
    TooLarge,
    /// Too many rows for what is done with them.
    #[error("at most {0} rows are read; cut the file in two")]
    TooMany(usize),
    /// No header line.
    #[error("the first line names the columns; this file has none")]
    NoColumns,
    /// Not CSV.
    #[error("line {0} is not CSV: is a quotation mark left open?")]
    Broken(u64),
    /// The mapping names a column that is not there.
    #[error("there is no column {0} in this file")]
    NoColumn(usize),
    /// The mapping names a field that is not there.
    #[error("this dialogue has no field “{0}”")]
    NoField(String),
}

/// A column and what stands in it.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct Column {
    /// Its name in the first line.
    pub name: String,
    /// What stands in it, most often first; 24 at most.
    pub words: Vec<String>,
    /// The key of the field that it seems to hold.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub field: Option<String>,
    /// True where it seems to say what became of the lead.
    pub outcome: bool,
}

/// A file at a glance.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct Glance {
    /// Its columns.
    pub columns: Vec<Column>,
    /// How many rows follow the first line.
    pub rows: u32,
}

/// Which column holds what.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Mapping {
    /// The key of the field that a column holds, by the column's place from 0 as text.
    pub fields: HashMap<String, String>,
    /// The column that says what became of the lead, from 0.
    pub outcome: usize,
    /// What stands there for won.
    pub won: Vec<String>,
    /// What stands there for lost; everything else is left out as not closed.
    pub lost: Vec<String>,
}

/// A row that could not be read.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct BadRow {
    /// Its line in the file.
    pub line: u64,
    /// What is wrong, in a sentence.
    pub says: String,
}

/// A row of a file.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, JsonSchema)]
pub struct Cells {
    /// Its line in the file.
    pub line: u64,
    /// What stands in it, cell by cell.
    pub cells: Vec<String>,
}

/// Rows as leads.
#[derive(Debug, Clone, Default)]
pub struct Sheet {
    /// The leads.
    pub leads: PastLeads,
    /// Rows that could not be read; 200 at most.
    pub bad: Vec<BadRow>,
    /// How many could not be read.
    pub bad_rows: u32,
}

fn open(text: &str) -> Result<(CsvReader<&[u8]>, Vec<String>), SheetError> {
    if text.len() > LIMIT {
        return Err(SheetError::TooLarge);
    }
    let text = text.trim_start_matches('\u{feff}');
    let first = text.lines().next().unwrap_or_default();
    // Spreadsheets write commas, semicolons or tabs, by country and by how one copies.
    let count = |mark: char| first.matches(mark).count();
    let delimiter = [('\t', b'\t'), (';', b';'), (',', b',')].into_iter().max_by_key(|(mark, _)| count(*mark));
    let mut reader = ReaderBuilder::new()
        .delimiter(delimiter.map_or(b',', |(_, byte)| byte))
        .flexible(true)
        .from_reader(text.as_bytes());
    let headers = reader.headers().map_err(|error| broken(&error))?;
    let names: Vec<String> = headers.iter().map(|name| clip(name.trim())).collect();
    if names.iter().all(String::is_empty) {
        return Err(SheetError::NoColumns);
    }
    if names.len() > COLUMNS {
        return Err(SheetError::TooLarge);
    }
    Ok((reader, names))
}

fn broken(error: &csv::Error) -> SheetError {
    SheetError::Broken(error.position().map_or(1, csv::Position::line))
}

fn clip(text: &str) -> String {
    text.chars().take(80).collect()
}

fn folded(text: &str) -> String {
    text.chars().filter(|letter| letter.is_alphanumeric()).flat_map(char::to_lowercase).collect()
}

/// Looks at a file: its columns, what stands in them, and what they seem to hold.
///
/// # Errors
/// A [`SheetError`].
pub fn glance(text: &str, fields: &[Field]) -> Result<Glance, SheetError> {
    let (mut reader, names) = open(text)?;
    let mut words: Vec<HashMap<String, u32>> = vec![HashMap::new(); names.len()];
    let mut rows = 0_u32;
    for record in reader.records() {
        let record = record.map_err(|error| broken(&error))?;
        rows += 1;
        if rows as usize > ROWS {
            return Err(SheetError::TooLarge);
        }
        for (known, cell) in words.iter_mut().zip(record.iter()) {
            let cell = cell.trim();
            if !cell.is_empty() && (known.len() < 1_000 || known.contains_key(cell)) {
                *known.entry(clip(cell)).or_default() += 1;
            }
        }
    }
    let columns = names
        .into_iter()
        .zip(words)
        .map(|(name, words)| {
            let mut words: Vec<(String, u32)> = words.into_iter().collect();
            words.sort_by(|one, other| other.1.cmp(&one.1).then_with(|| one.0.cmp(&other.0)));
            let plain = folded(&name);
            let of = |field: &&Field| folded(&field.key) == plain || folded(&field.label) == plain;
            let outcome = ["outcome", "status", "result", "won", "stage", "becameofit"].contains(&plain.as_str());
            Column {
                field: fields.iter().find(of).map(|field| field.key.clone()),
                outcome,
                words: words.into_iter().take(LISTED).map(|(word, _)| word).collect(),
                name,
            }
        })
        .collect();
    Ok(Glance { columns, rows })
}

/// A file's rows, cell by cell; at most so many. Empty rows are left out.
///
/// # Errors
/// A [`SheetError`].
pub fn cells(text: &str, most: usize) -> Result<Vec<Cells>, SheetError> {
    let (mut reader, _) = open(text)?;
    let mut rows = Vec::new();
    for record in reader.records() {
        let record = record.map_err(|error| broken(&error))?;
        if record.iter().all(|cell| cell.trim().is_empty()) {
            continue;
        }
        if rows.len() >= most {
            return Err(SheetError::TooMany(most));
        }
        let line = record.position().map_or(0, csv::Position::line);
        rows.push(Cells { line, cells: record.iter().map(str::to_owned).collect() });
    }
    Ok(rows)
}

/// Reads a file's rows as leads, as of a day. Each cell is read as a reply would be; an empty one is missing, and one
/// that a rule refuses is missing too, as it would be in a conversation.
///
/// # Errors
/// A [`SheetError`]; what is wrong with single rows stands in the sheet.
pub fn read(text: &str, mapping: &Mapping, fields: &[Field], language: &str, today: Date) -> Result<Sheet, SheetError> {
    let (mut reader, names) = open(text)?;
    let mut columns: Vec<(usize, &Field, Reader)> = Vec::new();
    for (column, key) in &mapping.fields {
        let place: usize = column.parse().unwrap_or(usize::MAX);
        if place >= names.len() {
            return Err(SheetError::NoColumn(place));
        }
        let field = fields.iter().find(|field| field.key == *key).ok_or_else(|| SheetError::NoField(key.clone()))?;
        if let Ok(reads) = Reader::new(ReaderSpec { fields, ..ReaderSpec::of(field, language) }) {
            columns.push((place, field, reads));
        }
    }
    columns.sort_by_key(|(place, _, _)| *place);
    if mapping.outcome >= names.len() {
        return Err(SheetError::NoColumn(mapping.outcome));
    }
    let at = today.at(12, 0, 0, 0).to_zoned(jiff::tz::TimeZone::UTC).map_or(Timestamp::UNIX_EPOCH, |at| at.timestamp());
    let is = |words: &[String], cell: &str| words.iter().any(|word| word.eq_ignore_ascii_case(cell));
    let mut sheet = Sheet::default();
    for (number, record) in reader.records().enumerate() {
        let record = record.map_err(|error| broken(&error))?;
        if number >= ROWS {
            return Err(SheetError::TooLarge);
        }
        if record.iter().all(|cell| cell.trim().is_empty()) {
            continue;
        }
        let outcome = clip(record.get(mapping.outcome).unwrap_or_default().trim());
        let end = if is(&mapping.won, &outcome) {
            End::Won
        } else if is(&mapping.lost, &outcome) {
            End::Lost
        } else {
            End::Open
        };
        match answers(&record, &columns, today) {
            Ok(answers) => {
                let id = Uuid::from_u128(number as u128 + 1);
                sheet.leads.put(Filed::new(id, at, end), answers);
            }
            Err(says) => {
                sheet.bad_rows += 1;
                if sheet.bad.len() < NAMED {
                    sheet.bad.push(BadRow { line: record.position().map_or(0, csv::Position::line), says });
                }
            }
        }
    }
    Ok(sheet)
}

fn answers(
    record: &csv::StringRecord,
    columns: &[(usize, &Field, Reader)],
    today: Date,
) -> Result<Vec<(String, Value)>, String> {
    let mut out = Vec::new();
    for (place, field, reads) in columns {
        let cell = record.get(*place).unwrap_or_default().trim();
        if cell.is_empty() {
            continue;
        }
        match reads.read(cell, ReadContext { today: Some(today), ..ReadContext::default() }, 0) {
            Reading::Value { value, .. } => out.push((field.id.clone(), value)),
            Reading::Declined | Reading::Failed { refused: Some(_), .. } => {}
            Reading::Failed { .. } => return Err(format!("{}: “{}” cannot be read", field.label, clip(cell))),
            Reading::Tie(_) => return Err(format!("{}: “{}” could be two options", field.label, clip(cell))),
        }
    }
    Ok(out)
}

#[cfg(test)]
mod tests {
    use super::*;

    fn fields() -> Vec<Field> {
        lumbo_dialogue::file::load(include_str!("../../../../demo/storage-enquiry.json"))
            .map_or(Vec::new(), |demo| demo.fields)
    }

    fn day() -> Date {
        jiff::civil::date(2026, 11, 23)
    }

    fn mapping(columns: &[(&str, &str)], outcome: usize) -> Mapping {
        Mapping {
            fields: columns.iter().map(|(place, key)| ((*place).to_owned(), (*key).to_owned())).collect(),
            outcome,
            won: vec!["Won".into()],
            lost: vec!["lost".into(), "no".into()],
        }
    }

    #[test]
    fn columns_are_told_by_the_names_and_keys_of_fields() {
        for text in [
            "Temperature,blast-freezing,Weight,Status\nfrozen,yes,3,won\n",
            "\u{feff}Temperature;blast-freezing;Weight;Status\nfrozen;yes;3;won\n",
            "Temperature\tblast-freezing\tWeight\tStatus\nfrozen\tyes\t3\twon\n",
        ] {
            let glance = glance(text, &fields()).unwrap();
            let told: Vec<Option<&str>> = glance.columns.iter().map(|column| column.field.as_deref()).collect();
            assert_eq!(told, [Some("temperature"), Some("blast_freezing"), None, None]);
            assert_eq!(
                glance.columns.iter().map(|column| column.outcome).collect::<Vec<_>>(),
                [false, false, false, true]
            );
            assert_eq!(glance.rows, 1);
        }
    }

    #[test]
    fn rows_are_read_as_replies_are_and_bad_ones_are_named_by_line() {
        let text = "temperature,pallets,email,outcome\nFrozen,about 120,pia@harrowpeel.example,Won\nlukewarm,12,,lost\n\
                    deep freeze,\"1,200\",me@gmail.com,no\nchilled,many,,won\n,,,\nchilled,,,open\n";
        let columns = [("0", "temperature"), ("1", "pallets"), ("2", "email")];
        let sheet = read(text, &mapping(&columns, 3), &fields(), "en", day()).unwrap();
        assert_eq!((sheet.leads.len(), sheet.bad_rows), (3, 2));
        let bad: Vec<(u64, &str)> = sheet.bad.iter().map(|bad| (bad.line, bad.says.as_str())).collect();
        assert_eq!(bad, [(3, "Temperature: “lukewarm” cannot be read"), (5, "Pallets: “many” cannot be read")]);
        let fields = fields();
        let named = sheet.leads.named(&fields, "GBP");
        let mut ends: Vec<End> = named.answered().iter().map(|one| one.lead.filed.end).collect();
        ends.sort_by_key(|end| *end as u8);
        assert_eq!(ends, [End::Won, End::Lost, End::Open]);
        // An address that a rule refuses is missing, as in a conversation.
        let known = |id: u128| {
            let all = named.answered();
            let one = all.iter().find(|one| one.lead.filed.id == Uuid::from_u128(id)).unwrap();
            lumbo_formula::Lookup::value(one, "email").is_some()
        };
        assert_eq!((known(1), known(3)), (true, false));
    }

    #[test]
    fn cells_keep_their_lines_also_behind_line_breaks_in_quotes() {
        let text = "a;b\n1;\"two\nlines\"\n;\n2;x\n";
        let rows = cells(text, 10).unwrap();
        assert_eq!(rows.iter().map(|row| row.line).collect::<Vec<_>>(), [2, 5]);
        assert_eq!(rows[0].cells, ["1", "two\nlines"]);
        assert_eq!(cells(text, 1), Err(SheetError::TooMany(1)));
    }

    #[test]
    fn what_is_no_file_of_leads_is_refused_with_a_sentence() {
        assert_eq!(glance("", &fields()).unwrap_err(), SheetError::NoColumns);
        assert_eq!(glance(&"x".repeat(LIMIT + 1), &fields()).unwrap_err(), SheetError::TooLarge);
        let text = "temperature,outcome\nfrozen,won\n";
        let read = |mapping: &Mapping| read(text, mapping, &fields(), "en", day()).map(|sheet| sheet.leads.len());
        assert_eq!(read(&mapping(&[("7", "temperature")], 1)), Err(SheetError::NoColumn(7)));
        assert_eq!(read(&mapping(&[("0", "colour")], 1)), Err(SheetError::NoField("colour".into())));
        assert_eq!(read(&mapping(&[("0", "temperature")], 2)), Err(SheetError::NoColumn(2)));
        assert_eq!(read(&mapping(&[("0", "temperature")], 1)), Ok(1));
    }

    proptest::proptest! {
        #[test]
        fn nothing_that_is_pasted_panics(text in "[a-z,;\t\n\"é0-9]{0,120}") {
            let _ = glance(&text, &fields());
            let _ = read(&text, &mapping(&[("0", "pallets")], 0), &fields(), "en", day());
        }
    }
}
