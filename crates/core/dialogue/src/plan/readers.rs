//! Readers: of asks, of open questions, of what is said besides and at any moment.

use super::compile::Compiler;
use super::{Kind, OfferNode, ReadyTalk, TalkNode};
use crate::file::brief::{OfferWhen, SideTalkDoes};
use crate::file::{Field, FieldType, Rule};
use crate::turns::{Ask, Turn};
use lumbo_language::fold;
use lumbo_reading::{FreeReader, Reader, ReaderSpec};
use lumbo_value::TryMessage;

/// How an ask narrows what its field takes, or loosens it.
#[derive(Debug, Clone, Copy, Default)]
pub(crate) struct Narrowed<'a> {
    /// Rules beside the field's own.
    pub rules: &'a [Rule],
    /// Keys of the field's own rules that do not count.
    pub loosens: &'a [String],
    /// Options that are offered; all where empty.
    pub only: &'a [String],
    /// The author's messages.
    pub messages: &'a [TryMessage],
}

impl<'a> Compiler<'a> {
    /// For each field a reader under the rules of the first Ask for it, else of the first form, or under its own rules
    /// alone.
    pub(crate) fn readers(&self) -> Vec<Option<Reader>> {
        let mut found: Vec<Option<Reader>> = vec![None; self.file.fields.len()];
        for node in self.turns.iter().rev() {
            if let Kind::AskTogether(form) = &node.kind {
                form.fields.iter().for_each(|wanted| found[wanted.field] = Some(wanted.reader.clone()));
            }
        }
        for node in self.turns.iter().rev() {
            if let Kind::Ask(ask) = &node.kind {
                found[ask.field] = Some(ask.reader.clone());
            }
        }
        found
            .into_iter()
            .zip(&self.file.fields)
            .map(|(reader, field)| reader.or_else(|| self.reader(field, Narrowed::default()).ok()))
            .collect()
    }

    /// A reader of several fields by their keys, each under the rules of its own ask where the file has one.
    pub(crate) fn free_reader(&self, keys: &[String]) -> Result<(Vec<usize>, FreeReader), (&'static str, String)> {
        let mut fields = Vec::new();
        let mut readers = Vec::new();
        for key in keys {
            let index = self.field(key)?;
            let definition = &self.file.fields[index];
            let mut own: Option<&Ask> = None;
            self.file.each_turn(&mut |_, _, turn| {
                if let Turn::Ask(ask) = turn
                    && ask.field == *key
                    && own.is_none()
                {
                    own = Some(ask);
                }
            });
            let reader = match own {
                Some(ask) => {
                    let (rules, loosens, only) = (&ask.rules, &ask.loosens, &ask.only);
                    self.reader(definition, Narrowed { rules, loosens, only, messages: &[] })?
                }
                None => self.reader(definition, Narrowed::default())?,
            };
            readers.push((reader, vec![definition.key.clone(), definition.label.clone()]));
            fields.push(index);
        }
        Ok((fields, FreeReader::new(readers, self.language)))
    }

    /// A reader of the fields that a reply to another question may fill, of those that some turn asks for.
    pub(crate) fn volunteered(&self, readers: &[Option<Reader>]) -> (FreeReader, Vec<usize>) {
        use crate::file::FieldType as T;
        let kinds =
            [T::Email, T::Phone, T::Website, T::Money, T::Quantity, T::WholeNumber, T::Date, T::Place].as_slice();
        self.reader_of_asked(readers, &|field| kinds.contains(&field.kind))
    }

    /// A reader of everything that some turn asks for, with the fields: for corrections of earlier answers.
    pub(crate) fn corrected(&self, readers: &[Option<Reader>]) -> (FreeReader, Vec<usize>) {
        self.reader_of_asked(readers, &|_| true)
    }

    /// A reader of the fields that some turn asks for and that are wanted, with the fields in their order.
    fn reader_of_asked(&self, readers: &[Option<Reader>], wanted: &dyn Fn(&Field) -> bool) -> (FreeReader, Vec<usize>) {
        let mut fields: Vec<usize> = self
            .turns
            .iter()
            .flat_map(|node| match &node.kind {
                Kind::Ask(ask) => vec![ask.field],
                Kind::AskTogether(form) => form.fields.iter().map(|wanted| wanted.field).collect(),
                Kind::OpenAsk(open) => open.fields.clone(),
                Kind::Tell(_)
                | Kind::ReadBack(_)
                | Kind::Fork
                | Kind::WorkOut(_)
                | Kind::FileLead(_)
                | Kind::Visit(_)
                | Kind::Close(_)
                | Kind::Broken(_) => Vec::new(),
            })
            .filter(|field| readers[*field].is_some() && wanted(&self.file.fields[*field]))
            .collect();
        fields.sort_unstable();
        fields.dedup();
        let ready = fields
            .iter()
            .filter_map(|field| {
                let definition = &self.file.fields[*field];
                readers[*field].clone().map(|reader| (reader, vec![definition.key.clone(), definition.label.clone()]))
            })
            .collect();
        (FreeReader::new(ready, self.language), fields)
    }

    pub(crate) fn side_talk(&mut self) -> Vec<TalkNode> {
        let file = self.file;
        file.side_talk
            .iter()
            .map(|talk| {
                let at = format!("any-time/{}", talk.id);
                let phrases: Vec<String> = talk
                    .phrases
                    .get(self.language)
                    .into_iter()
                    .flatten()
                    .map(|phrase| fold(phrase))
                    .filter(|phrase| !phrase.is_empty())
                    .collect();
                if phrases.is_empty() {
                    self.fault(
                        "text",
                        &at,
                        format!("this side-talk has no phrases in the dialogue’s language, {}", self.language),
                    );
                }
                let does = match &talk.does {
                    SideTalkDoes::Answer(parts) => {
                        ReadyTalk::Answer(parts.iter().map(|part| self.part(part, &at)).collect())
                    }
                    SideTalkDoes::GoTo(section) => ReadyTalk::Go(self.go_to(section, &at)),
                };
                TalkNode { id: talk.id.clone(), phrases, matches: talk.matches, does }
            })
            .collect()
    }

    pub(crate) fn offers(&mut self) -> Vec<OfferNode> {
        let file = self.file;
        file.offers
            .iter()
            .map(|offer| {
                let at = format!("any-time/{}", offer.id);
                let (every, about) = match &offer.when {
                    OfferWhen::Every(n) => (Some((*n).max(1)), Vec::new()),
                    OfferWhen::About(words) => {
                        (None, words.iter().map(|word| fold(word)).filter(|word| !word.is_empty()).collect())
                    }
                };
                OfferNode {
                    id: offer.id.clone(),
                    every,
                    about,
                    say: offer.say.iter().map(|part| self.part(part, &at)).collect(),
                }
            })
            .collect()
    }

    /// A reader for a field under an ask's rules.
    pub(crate) fn reader(&self, field: &Field, narrows: Narrowed<'_>) -> Result<Reader, (&'static str, String)> {
        let Narrowed { rules, loosens, only, messages } = narrows;
        for key in loosens {
            let label = &field.label;
            if !field.rules.iter().any(|rule| rule.key() == key) {
                return Err(("rule", format!("{label} has no rule “{key}” that could be left out here")));
            }
            if !field.may_loosen.contains(key) {
                let says = format!("the fields’ settings do not let an ask leave out the rule “{key}” of {label}");
                return Err(("rule", says));
            }
        }
        let file = self.file;
        let currency = Some(file.settings.currency.as_str());
        let (language, required_language) = (self.language, file.language.as_str());
        // A count, an amount of money or of things is not below nothing, unless a range says otherwise.
        let counts = matches!(field.kind, FieldType::WholeNumber | FieldType::Money)
            || field.kind == FieldType::Quantity && field.unit.as_deref().is_none_or(|unit| !unit.contains('°'));
        let ranged = field.rules.iter().chain(rules).any(|rule| matches!(rule, Rule::Range { .. }));
        let mut asked = rules.to_vec();
        if counts && !ranged {
            asked.insert(0, Rule::Range { min: Some("0".to_owned()), max: None });
        }
        let spec = ReaderSpec {
            field,
            rules: &asked,
            loosens,
            only,
            messages,
            language,
            required_language,
            fields: &file.fields,
            tables: &file.tables,
            currency,
        };
        Reader::new(spec)
            .map(|reader| reader.wording(&self.phrases))
            .map_err(|error| ("rule", format!("{}: {error}", field.label)))
    }
}
