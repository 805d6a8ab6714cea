//! Words: wordings picked by the conversation's seed, chips filled with what is known.

use super::Line;
use super::clause;
use super::step::Run;
use crate::plan::ReadyPart;
use lumbo_condition::circumstances::weekday_index;
use lumbo_language::Language;
use lumbo_reading as field;
use lumbo_reading::shown;
use lumbo_value::Value;
use lumbo_value::text::{Chip, Piece};

impl Run<'_> {
    pub(crate) fn part(&self, turn: &str, part: &ReadyPart) -> Line {
        match part {
            ReadyPart::Line(wordings) => Line::Text { text: self.wording(turn, wordings) },
            ReadyPart::Picture(media, alt) => Line::Picture { media: media.clone(), alt: self.render(alt) },
            ReadyPart::Document(media, label) => Line::Document { media: media.clone(), label: self.render(label) },
            ReadyPart::Link(label, url) => Line::Link { label: self.render(label), url: url.clone() },
            ReadyPart::Beside(parts) => {
                Line::Beside { lines: parts.iter().map(|part| self.part(turn, part)).collect() }
            }
        }
    }

    /// One of the wordings, by the conversation's seed and the turn.
    pub(crate) fn wording(&self, turn: &str, wordings: &[Vec<Piece>]) -> String {
        let pick = match wordings.len() {
            0 | 1 => 0,
            count => {
                // FNV-1a over the seed and the turn: stable across versions and platforms, unlike the standard hasher.
                let bytes = self.state.seed.to_le_bytes();
                let hash = bytes.iter().chain(turn.as_bytes()).fold(0xcbf2_9ce4_8422_2325_u64, |hash, byte| {
                    (hash ^ u64::from(*byte)).wrapping_mul(0x0100_0000_01b3)
                });
                usize::try_from(hash % count as u64).unwrap_or(0)
            }
        };
        wordings.get(pick).map(|pieces| self.render(pieces)).unwrap_or_default()
    }

    /// The words of a text. Where a value is missing and has no fallback, the clause around it is left out.
    pub(crate) fn render(&self, pieces: &[Piece]) -> String {
        let mut out = String::new();
        let mut gaps = false;
        for piece in pieces {
            match piece {
                Piece::Words(words) => out.push_str(words),
                Piece::Chip(chip) => match self.chip(chip) {
                    Some(words) => out.push_str(&words),
                    None => {
                        gaps = true;
                        out.push(clause::GAP);
                    }
                },
            }
        }
        if gaps { clause::without(&out) } else { out }
    }

    fn chip(&self, chip: &Chip) -> Option<String> {
        let fallback = || chip.fallback.clone();
        if let Some(name) = chip.field.strip_prefix('@') {
            return self.around(name, &chip.forms).or_else(fallback);
        }
        let Some(field) = self.plan.field_by_key(&chip.field) else { return fallback() };
        let Some(held) = self.state.values.get(&field.id) else { return fallback() };
        if !chip.forms.is_empty() {
            let key = match &held.value {
                Value::Choice { key } => key.clone(),
                other => other.to_string(),
            };
            return chip
                .forms
                .iter()
                .find(|(value, _)| value.eq_ignore_ascii_case(&key))
                .map_or_else(fallback, |(_, word)| Some(word.clone()));
        }
        match &chip.part {
            Some(part) => field::part(&held.value, part).or_else(fallback),
            None => Some(shown(field, &held.value, &self.plan.language, &self.plan.file.language)),
        }
    }

    /// What is known without asking, by name; by the word for it where the chip has words.
    fn around(&self, name: &str, forms: &[(String, String)]) -> Option<String> {
        let known = self.known(None);
        let around = known.around();
        let value = around.get(name)?;
        if !forms.is_empty() {
            return forms.iter().find(|(form, _)| form.eq_ignore_ascii_case(&value)).map(|(_, word)| word.clone());
        }
        let language = &self.plan.language;
        match name {
            "country" => Some(field::country_name(&value, language)),
            "weekday" => Language::get(language).dates.shown.weekdays.get(weekday_index(around.local()?)).cloned(),
            _ => Some(value.into_owned()),
        }
    }
}
