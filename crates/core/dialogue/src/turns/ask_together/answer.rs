//! A form that was sent, or answered by typing.

use std::collections::BTreeMap;

use lumbo_reading::{Heard, Reader, Reading, shown};
use lumbo_value::{Missing, Value};

use super::FormNode;
use crate::plan::{Kind, Next, Node, ReadyWayOut};
use crate::talk::step::Run;
use crate::talk::{Event, FormProblem, Stage, WhyOut};

impl<'a> Run<'a> {
    /// A form that was sent: every answer is kept, or every problem is named.
    pub(crate) fn form(&mut self, values: &BTreeMap<String, String>) {
        let Some((_, node)) = self.node_of_open() else {
            return self.fall_back("the open question is not in this release any more");
        };
        let Some(Stage::Form(ids)) = self.state.asking.as_ref().map(|asking| asking.stage.clone()) else { return };
        let wanted: Vec<(usize, &'a Reader)> = ids.iter().filter_map(|id| self.form_field(node, id)).collect();
        let mut kept: Vec<(usize, Option<Value>)> = Vec::new();
        let mut problems = Vec::new();
        let mut said = Vec::new();
        for (field, reader) in wanted {
            let definition = &self.plan.file.fields[field];
            let text = values.get(&definition.key).map_or("", String::as_str).replace('\0', "\u{fffd}");
            match self.form_answer(reader, field, text.trim()) {
                Ok(value) => {
                    if let Some(value) = &value {
                        said.push(shown(definition, value, &self.plan.language, &self.plan.file.language));
                    }
                    kept.push((field, value));
                }
                Err(problem) => problems.push(problem),
            }
        }
        let turn = node.id.clone();
        let (tried, of) = (
            self.state.asking.as_ref().map_or(0, |asking| asking.tries),
            if let Kind::AskTogether(form) = &node.kind { form.tries } else { 3 },
        );
        let attempt = tried.saturating_add(1);
        if !problems.is_empty() && attempt < of {
            let message = self.plan.phrases.get("form.some").to_owned();
            return self.emit(Event::FormReturned { turn, problems, message, attempt, of });
        }
        self.emit(Event::Replied { turn: turn.clone(), text: said.join(", "), picked: true });
        let failed = !problems.is_empty();
        for problem in &problems {
            self.emit(Event::LeftOpen {
                turn: turn.clone(),
                field: problem.field.clone(),
                why: WhyOut::Tries,
                missing: Missing::NotReadable,
                message: None,
            });
        }
        for (field, value) in kept {
            self.keep_of_form(&turn, field, value);
        }
        let next = match &node.kind {
            Kind::AskTogether(form) => way_of(form, failed, node),
            _ => node.next,
        };
        self.go_on(next);
    }

    /// One answer of a form: a value, none because it was left empty or declined, or what is wrong.
    fn form_answer(&self, reader: &Reader, field: usize, text: &str) -> Result<Option<Value>, FormProblem> {
        if text.is_empty() && !reader.required() {
            return Ok(None);
        }
        let known = self.known(None);
        let several: Vec<String> = text.split(',').map(str::trim).map(str::to_owned).collect();
        let reading = match reader.pick_several(&several).or_else(|| reader.pick(text)) {
            Some(value) => reader.judge(value, Heard::default(), known.reading(), 0),
            None => reader.read(text, known.reading(), 0),
        };
        let problem = |failed: Vec<&'static str>, message: String, refused| FormProblem {
            field: self.plan.file.fields[field].id.clone(),
            failed: failed.into_iter().map(str::to_owned).collect(),
            message,
            refused,
        };
        match reading {
            Reading::Value { value, .. } => Ok(Some(self.stamped(value))),
            Reading::Declined if !reader.required() => Ok(None),
            Reading::Declined => {
                Err(problem(vec!["required"], self.plan.phrases.get("rule.required").to_owned(), None))
            }
            Reading::Tie(options) => Err(problem(vec!["type"], reader.tie_question(&options), None)),
            Reading::Failed { failed, message, refused, .. } => Err(problem(failed, message, refused)),
        }
    }

    pub(crate) fn keep_of_form(&mut self, turn: &str, field: usize, value: Option<Value>) {
        let definition = &self.plan.file.fields[field];
        match value {
            Some(value) => {
                let before = self.state.points;
                let after = self.points_with(definition, Some(&value));
                let others = self.others_with(definition, Some(&value));
                let words = shown(definition, &value, &self.plan.language, &self.plan.file.language);
                self.emit(Event::Kept {
                    turn: turn.to_owned(),
                    field: definition.id.clone(),
                    value,
                    shown: words,
                    heard: None,
                    besides: false,
                    before,
                    after,
                    others,
                });
            }
            None => self.emit(Event::LeftOpen {
                turn: turn.to_owned(),
                field: definition.id.clone(),
                why: WhyOut::Skipped,
                missing: Missing::Skipped,
                message: None,
            }),
        }
    }

    /// A field of the open form, with the reader of the form or of its own ask.
    fn form_field(&self, node: &'a Node, id: &str) -> Option<(usize, &'a Reader)> {
        let plan = self.plan;
        let field = plan.file.fields.iter().position(|field| field.id == *id)?;
        if let Kind::AskTogether(form) = &node.kind {
            return form.fields.iter().find(|wanted| wanted.field == field).map(|wanted| (field, &wanted.reader));
        }
        plan.readers.get(field)?.as_ref().map(|reader| (field, reader))
    }

    /// A typed reply while a form is open: read as a free reply, it may fill the whole form.
    pub(crate) fn form_reply(&mut self, text: &str) {
        let Some((_, node)) = self.node_of_open() else {
            return self.fall_back("the open question is not in this release any more");
        };
        if self.side_talk(None, text) {
            return self.leave_form_after_extras(node);
        }
        let Some(Stage::Form(ids)) = self.state.asking.as_ref().map(|asking| asking.stage.clone()) else { return };
        let fields: Vec<(usize, &'a Reader)> = ids.iter().filter_map(|id| self.form_field(node, id)).collect();
        let readers = fields.iter().map(|(field, reader)| {
            let definition = &self.plan.file.fields[*field];
            ((*reader).clone(), vec![definition.key.clone(), definition.label.clone()])
        });
        let free = lumbo_reading::FreeReader::new(readers.collect(), &self.plan.language);
        let taken = self.read_free(&free, text);
        let mut values: BTreeMap<String, String> = BTreeMap::new();
        for one in taken {
            let definition = &self.plan.file.fields[fields[one.field].0];
            values.insert(
                definition.key.clone(),
                shown(definition, &one.value, &self.plan.language, &self.plan.file.language),
            );
        }
        // What is known already stands in the form; a reply that leaves it out does not take it back.
        for (field, _) in fields {
            let definition = &self.plan.file.fields[field];
            if let Some(held) = self.state.values.get(&definition.id) {
                let known = shown(definition, &held.value, &self.plan.language, &self.plan.file.language);
                values.entry(definition.key.clone()).or_insert(known);
            }
        }
        self.form(&values);
    }

    fn leave_form_after_extras(&mut self, node: &'a Node) {
        let extras = self.state.asking.as_ref().map_or(0, |asking| asking.extras);
        if extras >= self.plan.file.settings.extras_per_ask.clamp(1, 50)
            && let Some(Stage::Form(ids)) = self.state.asking.as_ref().map(|asking| asking.stage.clone())
        {
            for field in ids {
                self.emit(Event::LeftOpen {
                    turn: node.id.clone(),
                    field,
                    why: WhyOut::Extras,
                    missing: Missing::NotReadable,
                    message: None,
                });
            }
            let next = if let Kind::AskTogether(form) = &node.kind { way_of(form, true, node) } else { node.next };
            self.go_on(next);
        }
    }
}

fn way_of(form: &FormNode, failed: bool, node: &Node) -> Next {
    match form.way_out {
        ReadyWayOut::Go(next) if failed => next,
        _ => node.next,
    }
}
