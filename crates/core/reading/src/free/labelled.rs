//! Replies that are written like a form: "Name: Ana Ruiz", "Budget - 2k; Start date - 1 March".

use super::super::{Heard, ReadContext, Reading};
use super::{FreeReader, Taken, Work, ends_clause};
use lumbo_language::{Kind, Scan};
use lumbo_value::FieldType;

/// A label with its mark, by its tokens; of a field, or of something that nobody asked for.
struct Label {
    field: Option<usize>,
    first: usize,
    value: usize,
}

/// A value behind its label.
struct Labelled {
    taken: Taken,
    /// Bytes of the label with its mark, and of the value.
    label: (usize, usize),
    value: (usize, usize),
}

impl FreeReader {
    /// Takes what stands behind a field's own name and a mark, as the field's type reads it. A name that stands there
    /// twice with different values is not settled.
    pub(super) fn labelled(&self, work: &mut Work<'_>, context: ReadContext<'_>) {
        let labels = self.labels(&work.scan);
        let found: Vec<Labelled> = labels
            .iter()
            .enumerate()
            .filter_map(|(place, label)| self.behind(&work.scan, label, labels.get(place + 1), context))
            .collect();
        for one in &found {
            if found.iter().all(|other| other.taken.field != one.taken.field || other.taken.value == one.taken.value) {
                work.taken[one.taken.field] = Some((one.taken.clone(), one.value.0));
                work.claimed.extend([one.label, one.value]);
            }
        }
    }

    /// Labels at the beginning of a clause or a line, in order.
    fn labels(&self, scan: &Scan<'_>) -> Vec<Label> {
        let mut out: Vec<Label> = Vec::new();
        for index in 0..scan.tokens.len().min(400) {
            let begins = index == 0 || scan.breaks_before(index) || scan.tokens[index - 1].kind == Kind::Mark;
            if !begins || out.last().is_some_and(|label| index < label.value) || scan.tokens[index].kind == Kind::Mark {
                continue;
            }
            let own = |field: usize| Some((field, mark_at(scan, self.fields[field].cues.at(scan, index)?.1, true)?));
            let mut named = (0..self.fields.len()).filter_map(own);
            if let Some((field, value)) = named.next() {
                let field = Some(field).filter(|_| named.next().is_none());
                out.push(Label { field, first: index, value });
            } else if let Some(value) = (index + 1..index + 4).find_map(|next| mark_at(scan, next, false)) {
                // "Job title: Buyer" ends what stands before it.
                if (index..value - 1).all(|at| scan.word(at).is_some() && (at == index || !scan.breaks_before(at))) {
                    out.push(Label { field: None, first: index, value });
                }
            }
        }
        out
    }

    /// What a label's field reads behind it, up to the next label or the end of the line; an address and a list may
    /// have more lines.
    fn behind(
        &self,
        scan: &Scan<'_>,
        label: &Label,
        next: Option<&Label>,
        context: ReadContext<'_>,
    ) -> Option<Labelled> {
        let field = label.field?;
        let reader = &self.fields[field].reader;
        if reader.kind == FieldType::Consent {
            return None;
        }
        let lines = matches!(reader.kind, FieldType::Address | FieldType::List | FieldType::LongText);
        let bound = next.map_or(scan.tokens.len(), |next| next.first);
        let end = (label.value + 1..bound).find(|index| !lines && scan.breaks_before(*index)).unwrap_or(bound);
        let start = scan.tokens.get(label.value).filter(|_| label.value < end)?.start;
        let text = scan
            .raw
            .get(start..scan.tokens.get(end - 1)?.end)?
            .trim_end_matches([',', ';', '|', '/', '-', '–', ' ', '\n']);
        let Reading::Value { value, heard } = reader.read(text, context, 0) else { return None };
        let byte = |characters: usize| text.char_indices().nth(characters).map_or(text.len(), |(byte, _)| byte);
        let bytes = (start + byte(heard.start), start + byte(heard.end));
        let heard = Heard::at(scan.raw, bytes.0, bytes.1);
        let mark = scan.tokens[label.value - 1].end;
        Some(Labelled {
            taken: Taken { field, value, heard },
            label: (scan.tokens[label.first].start, mark),
            value: bytes,
        })
    }
}

/// The token behind the mark of a label; a dash is one only behind a field's own name and with a space before it.
fn mark_at(scan: &Scan<'_>, index: usize, dash: bool) -> Option<usize> {
    let token = scan.tokens.get(index)?;
    // "https://" is no label.
    let address = scan.tokens.get(index + 1).is_some_and(|next| next.is('/') && next.glued);
    let mark = token.is(':') && !address || token.is('=') || dash && token.is_dash() && !token.glued;
    (mark && !ends_clause(scan, index)).then_some(index + 1)
}
