//! Turns by their kind, with their parts, links and pictures.

use super::compile::Compiler;
use super::{AskNode, FormFieldNode, FormNode, Kind, Next, OpenNode, ReadBackNode, ReadyPart};
use crate::file::turn::{AskMissing, Link, Part, Turn};
use lumbo_formula as formula;
use lumbo_formula::{Names, Type};
use lumbo_value::text::Piece;

impl<'a> Compiler<'a> {
    pub(super) fn link(&mut self, link: &Link, at: &str) -> (Vec<Piece>, String) {
        if !(link.url.starts_with("https://") || link.url.starts_with("http://")) {
            self.fault("link", at, format!("“{}” is not an http or https address", link.url));
        }
        (self.text(&link.label, at), link.url.clone())
    }

    pub(super) fn kind(&mut self, turn: &Turn, at: &str) -> Result<Kind, (&'static str, String)> {
        Ok(match turn {
            Turn::Tell(tell) => {
                if tell.say.is_empty() {
                    self.fault("text", at, "this Tell says nothing");
                }
                Kind::Tell(tell.say.iter().map(|part| self.part(part, at)).collect())
            }
            Turn::Ask(ask) => {
                let field = self.field(&ask.field)?;
                let definition = &self.file.fields[field];
                let reader = self.reader(definition, &ask.rules, &ask.only, &ask.messages)?;
                let way_out = self.way_out(&ask.way_out, &ask.arms, at)?;
                if !(1..=10).contains(&ask.tries) {
                    self.fault("rule", at, "an ask allows 1 to 10 tries");
                }
                Kind::Ask(Box::new(AskNode {
                    say: self.wordings(&ask.say, at),
                    short: ask.short.as_ref().map(|text| self.text(text, at)),
                    why: ask.why.as_ref().map(|text| self.text(text, at)),
                    field,
                    reader,
                    tries: ask.tries.clamp(1, 10),
                    way_out,
                    skip: ask.skip.as_ref().map(|text| self.text(text, at)),
                    if_known: ask.if_known,
                    held: ask.held,
                }))
            }
            Turn::AskTogether(form) => {
                if form.fields.is_empty() {
                    self.fault("text", at, "this form has no fields");
                }
                let mut fields = Vec::new();
                for wanted in &form.fields {
                    let field = self.field(&wanted.field)?;
                    let definition = &self.file.fields[field];
                    let label = wanted.label.as_ref().map_or_else(
                        || definition.label.clone(),
                        |label| label.get(self.language, self.language).to_owned(),
                    );
                    fields.push(FormFieldNode {
                        field,
                        label,
                        reader: self.reader(definition, &wanted.rules, &[], &[])?,
                    });
                }
                let way_out = self.way_out(&form.way_out, &[], at)?;
                Kind::AskTogether(Box::new(FormNode {
                    say: self.wordings(&form.say, at),
                    fields,
                    tries: form.tries.clamp(1, 10),
                    way_out,
                }))
            }
            Turn::OpenAsk(open) => {
                let (fields, reader) = self.free_reader(&open.fields)?;
                if fields.is_empty() {
                    self.fault("text", at, "this Open ask reads no fields");
                }
                Kind::OpenAsk(Box::new(OpenNode {
                    say: self.wordings(&open.say, at),
                    fields,
                    reader,
                    together: open.missing == AskMissing::Together,
                }))
            }
            Turn::ReadBack(back) => {
                let (fields, reader) = self.free_reader(&back.fields)?;
                if fields.is_empty() {
                    self.fault("text", at, "this Read back shows no fields");
                }
                Kind::ReadBack(Box::new(ReadBackNode { say: self.wordings(&back.say, at), fields, reader }))
            }
            Turn::Fork(fork) => {
                if fork.arms.is_empty() {
                    self.fault("arm", at, "this Fork has no arms");
                }
                Kind::Fork
            }
            Turn::WorkOut(work) => {
                let mut fills = Vec::new();
                for fill in &work.fills {
                    let field = self.field(&fill.field)?;
                    let definition = &self.file.fields[field];
                    let formula =
                        formula::compile(&fill.formula, Names { fields: &self.file.fields, tables: &self.file.tables })
                            .map_err(|error| ("formula", format!("{}: {error}", definition.label)))?;
                    let wanted = Type::of(definition.kind);
                    if formula.gives() != wanted {
                        return Err((
                            "formula",
                            format!(
                                "{} keeps {}; this formula gives {}",
                                definition.label,
                                wanted.name(),
                                formula.gives().name()
                            ),
                        ));
                    }
                    fills.push((field, formula));
                }
                Kind::WorkOut(fills)
            }
            Turn::FileLead(file) => {
                let card = match &file.scorecard {
                    None if self.file.scorecards.len() > 1 && self.file.default_card_place().is_none() => {
                        return Err((
                            "target",
                            "this dialogue has several scorecards: name one here, or say which is the default"
                                .to_owned(),
                        ));
                    }
                    None => self.file.default_card_place(),
                    Some(id) => Some(
                        self.file
                            .scorecards
                            .iter()
                            .position(|card| card.id == *id)
                            .ok_or_else(|| ("target", format!("there is no scorecard “{id}”")))?,
                    ),
                };
                Kind::FileLead(card)
            }
            Turn::Visit(visit) => match self.go_to(&visit.section, at) {
                Next::GoTo(section) => Kind::Visit(section),
                _ => Kind::Broken(format!("there is no section “{}” to visit", visit.section)),
            },
            Turn::Close(close) => {
                self.outcome(&close.outcome, at);
                Kind::Close {
                    outcome: close.outcome.clone(),
                    say: close.say.as_ref().map(|say| self.wordings(say, at)),
                    link: close.link.as_ref().map(|link| self.link(link, at)),
                }
            }
            other => {
                return Err(("cannot_run_yet", format!("{} cannot be run by this version yet", other.kind_label())));
            }
        })
    }
}

impl<'a> Compiler<'a> {
    pub(super) fn part(&mut self, part: &Part, at: &str) -> ReadyPart {
        match part {
            Part::Line(wording) => ReadyPart::Line(self.wordings(wording, at)),
            Part::Picture(picture) => {
                self.medium(&picture.media, "picture", at);
                ReadyPart::Picture(picture.media.clone(), self.text(&picture.alt, at))
            }
            Part::Document(document) => {
                self.medium(&document.media, "document", at);
                ReadyPart::Document(document.media.clone(), self.text(&document.label, at))
            }
            Part::Link(link) => {
                let (label, url) = self.link(link, at);
                ReadyPart::Link(label, url)
            }
            Part::Beside(parts) => {
                if parts.is_empty()
                    || parts.len() > 6
                    || parts.iter().any(|part| matches!(part, Part::Beside(_) | Part::Line(_)))
                {
                    self.fault("text", at, "side by side stand 1 to 6 pictures, documents or links");
                }
                ReadyPart::Beside(
                    parts
                        .iter()
                        .filter(|part| !matches!(part, Part::Beside(_)))
                        .map(|part| self.part(part, at))
                        .collect(),
                )
            }
        }
    }

    pub(super) fn medium(&mut self, hash: &str, what: &str, at: &str) {
        if !self.file.media.contains_key(hash) {
            self.fault("media", at, format!("this {what} was never uploaded here"));
        }
    }
}
