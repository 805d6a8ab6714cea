//! Tables as a spreadsheet (ISO/IEC 29500, “xlsx”): numbers are numbers and dates are dates there, and a text is never
//! a formula.

use jiff::civil::{Date, DateTime};
use rust_decimal::Decimal;
use rust_decimal::prelude::ToPrimitive;
use rust_xlsxwriter::{ExcelDateTime, Format, Workbook, Worksheet, XlsxError};

/// Longest text of a cell, characters; the format allows 32,767.
const TEXT_LIMIT: usize = 32_000;

/// One cell.
#[derive(Debug, Clone, PartialEq)]
pub enum Cell {
    /// Nothing: what was not given is absent.
    Empty,
    /// Words.
    Text(String),
    /// An amount, with what stands behind it: a unit, a currency's code.
    Number(Decimal, Option<String>),
    /// A calendar date.
    Day(Date),
    /// A moment, in the zone of whoever reads it.
    Moment(DateTime),
}

/// A spreadsheet with one sheet, whose first row is its head and stays in sight.
///
/// # Errors
/// A sentence, where the sheet has too many rows or columns for the format, or a name that it does not allow.
pub fn sheet(name: &str, head: &[String], rows: impl IntoIterator<Item = Vec<Cell>>) -> Result<Vec<u8>, String> {
    let says = |error: XlsxError| error.to_string();
    let mut book = Workbook::new();
    let bold = Format::new().set_bold();
    let sheet = book.add_worksheet();
    sheet.set_name(sheet_name(name)).map_err(says)?;
    for (column, title) in head.iter().enumerate() {
        let column = u16::try_from(column).map_err(|_| "a spreadsheet has at most 16,384 columns".to_owned())?;
        sheet.write_string_with_format(0, column, title, &bold).map_err(says)?;
    }
    sheet.set_freeze_panes(1, 0).map_err(says)?;
    for (row, cells) in rows.into_iter().enumerate() {
        let row = u32::try_from(row + 1).map_err(|_| "a spreadsheet has at most 1,048,576 rows".to_owned())?;
        for (column, cell) in cells.into_iter().enumerate() {
            let column = u16::try_from(column).map_err(|_| "a spreadsheet has at most 16,384 columns".to_owned())?;
            write(sheet, row, column, cell).map_err(says)?;
        }
    }
    book.save_to_buffer().map_err(says)
}

fn write(sheet: &mut Worksheet, row: u32, column: u16, cell: Cell) -> Result<(), XlsxError> {
    match cell {
        Cell::Empty => {}
        Cell::Text(text) => {
            let short: String = text.chars().filter(|c| keeps(*c)).take(TEXT_LIMIT).collect();
            sheet.write_string(row, column, short)?;
        }
        Cell::Number(amount, behind) => match (amount.to_f64(), behind) {
            (None, _) => {
                sheet.write_string(row, column, amount.to_string())?;
            }
            (Some(number), None) => {
                sheet.write_number(row, column, number)?;
            }
            (Some(number), Some(behind)) => {
                let quoted = behind.replace(['"', '\\'], " ");
                let digits = usize::try_from(amount.scale()).unwrap_or(0);
                let decimals = if digits > 0 { format!(".{}", "0".repeat(digits)) } else { String::new() };
                let format = Format::new().set_num_format(format!("0{decimals} \"{quoted}\""));
                sheet.write_number_with_format(row, column, number, &format)?;
            }
        },
        Cell::Day(date) => {
            let format = Format::new().set_num_format("yyyy-mm-dd");
            match ExcelDateTime::from_ymd(year(date), month(date), day(date)) {
                Ok(value) => sheet.write_datetime_with_format(row, column, &value, &format)?,
                // The format knows no day before 1900.
                Err(_) => sheet.write_string(row, column, date.to_string())?,
            };
        }
        Cell::Moment(at) => {
            let format = Format::new().set_num_format("yyyy-mm-dd hh:mm");
            let small = |number: i8| u8::try_from(number).unwrap_or(0);
            let value = ExcelDateTime::from_ymd(year(at.date()), month(at.date()), day(at.date()))
                .and_then(|day| day.and_hms(u16::from(small(at.hour())), small(at.minute()), small(at.second())));
            match value {
                Ok(value) => sheet.write_datetime_with_format(row, column, &value, &format)?,
                Err(_) => sheet.write_string(row, column, at.to_string())?,
            };
        }
    }
    Ok(())
}

fn year(date: Date) -> u16 {
    u16::try_from(date.year()).unwrap_or(0)
}

fn month(date: Date) -> u8 {
    u8::try_from(date.month()).unwrap_or(0)
}

fn day(date: Date) -> u8 {
    u8::try_from(date.day()).unwrap_or(0)
}

/// True for a character that XML 1.0 can hold.
fn keeps(c: char) -> bool {
    matches!(c, '\t' | '\n' | '\r' | '\u{20}'..='\u{d7ff}' | '\u{e000}'..='\u{fffd}' | '\u{10000}'..)
}

/// A sheet's name within what the format allows: at most 31 characters, none of `[ ] : * ? / \`, no apostrophe at an
/// end.
fn sheet_name(name: &str) -> String {
    let plain: String = name.chars().map(|c| if "[]:*?/\\".contains(c) || !keeps(c) { ' ' } else { c }).collect();
    let short: String = plain.trim().trim_matches('\'').chars().take(31).collect();
    let short = short.trim().trim_matches('\'').to_owned();
    if short.is_empty() { "Sheet".to_owned() } else { short }
}

#[cfg(test)]
#[allow(clippy::unwrap_used, reason = "tests")]
mod tests {
    use std::io::Cursor;

    use calamine::{Data, Reader, Xlsx};

    use super::*;

    /// Reads a sheet back with the crate calamine.
    fn read(bytes: Vec<u8>) -> (String, Vec<Vec<Data>>) {
        let mut book: Xlsx<_> = Xlsx::new(Cursor::new(bytes)).unwrap();
        let name = book.sheet_names()[0].clone();
        let range = book.worksheet_range(&name).unwrap();
        (name, range.rows().map(<[Data]>::to_vec).collect())
    }

    #[test]
    fn another_reader_reads_what_was_written() {
        let head = ["When".to_owned(), "Name".into(), "Pallets".into(), "Start".into(), "Budget".into()];
        let rows = [
            vec![
                Cell::Moment("2026-11-23T09:30:00".parse().unwrap()),
                Cell::Text("=HYPERLINK(\"http://x.example\")".into()),
                Cell::Number(Decimal::from(340), Some("pallets".into())),
                Cell::Day("2027-02-01".parse().unwrap()),
                Cell::Number("12500.50".parse().unwrap(), Some("GBP".into())),
            ],
            vec![Cell::Empty, Cell::Text("Åsa\nÖstlund \u{1}".into()), Cell::Number(Decimal::from(-3), None)],
            vec![Cell::Empty, Cell::Text("before 1900".into()), Cell::Empty, Cell::Day("1850-01-01".parse().unwrap())],
        ];
        let (name, table) = read(sheet("Storage: enquiry / all", &head, rows).unwrap());
        assert_eq!(name, "Storage  enquiry   all");
        assert_eq!(table[0][4], Data::String("Budget".into()));
        assert_eq!(table[1][1], Data::String("=HYPERLINK(\"http://x.example\")".into()), "a text, not a formula");
        assert_eq!(table[1][2], Data::Float(340.0));
        assert_eq!(table[1][4], Data::Float(12500.5));
        // Days are counted from 1899-12-30 there: 2027-02-01 is 46,419, 2026-11-23 is 46,349.
        let Data::DateTime(day) = &table[1][3] else { panic!("{:?}", table[1][3]) };
        assert!((day.as_f64() - 46_419.0).abs() < 1e-9);
        let Data::DateTime(moment) = &table[1][0] else { panic!("{:?}", table[1][0]) };
        assert!((moment.as_f64() - (46_349.0 + 9.5 / 24.0)).abs() < 1e-6, "{}", moment.as_f64());
        assert_eq!((&table[2][0], &table[2][1]), (&Data::Empty, &Data::String("Åsa\nÖstlund ".into())));
        assert_eq!(table[3][3], Data::String("1850-01-01".into()));
    }

    #[test]
    fn a_sheet_has_a_name_that_the_format_allows() {
        assert_eq!(sheet_name("'[a]:*?/\\'"), "a");
        assert_eq!(sheet_name("  "), "Sheet");
        assert_eq!(sheet_name(&"ä".repeat(40)).chars().count(), 31);
        assert!(sheet("", &[], []).is_ok());
    }
}
