//! Tables as CSV (RFC 4180, UTF-8, a head line).

use csv::{Terminator, WriterBuilder};

/// Writes a table as CSV. A cell that a spreadsheet would take for a formula gets an apostrophe before it.
///
/// ```
/// use lumbo_deliver::table::csv;
///
/// let lines = [["Ana", "=HYPERLINK(1)"], ["Ben", "a\"b"]];
/// assert_eq!(csv(&["name", "says"], lines), "name,says\r\nAna,'=HYPERLINK(1)\r\nBen,\"a\"\"b\"\r\n");
/// ```
#[must_use]
pub fn csv<L, C>(head: &[&str], lines: impl IntoIterator<Item = L>) -> String
where
    L: IntoIterator<Item = C>,
    C: AsRef<str>,
{
    let mut writer = WriterBuilder::new().terminator(Terminator::CRLF).from_writer(Vec::new());
    // Writing to memory does not fail.
    let _ = writer.write_record(head);
    for line in lines {
        let _ = writer.write_record(line.into_iter().map(|cell| defused(cell.as_ref())));
    }
    writer.into_inner().ok().and_then(|bytes| String::from_utf8(bytes).ok()).unwrap_or_default()
}

/// What begins a cell that a spreadsheet would take for a formula.
const FORMULA_SIGNS: [char; 7] = ['=', '+', '-', '@', '\t', '\r', '\''];

fn defused(cell: &str) -> String {
    if cell.starts_with(FORMULA_SIGNS) { format!("'{cell}") } else { cell.to_owned() }
}

/// A cell as it was before its apostrophe.
#[must_use]
pub fn plain(cell: &str) -> &str {
    cell.strip_prefix('\'').filter(|rest| rest.starts_with(FORMULA_SIGNS)).unwrap_or(cell)
}
