//! Questions about several fields: forms, open questions, and reading back what was kept.

use std::collections::BTreeMap;

use super::replay::Change;
use super::step::{ALL_RIGHT, Run, open_read_back};
use super::{Event, FormProblem, Line, Stage, WhyOut};
use crate::plan::{FormNode, Kind, Next, Node, ReadyWayOut};
use lumbo_language::{Language, Scan, fill, fold};
use lumbo_reading::{Heard, Reader, Reading, Taken, shown};
use lumbo_value::{Missing, Value};

impl<'a> Run<'a> {
    /// The line above a form, an open question or a list.
    pub(super) fn line_above(&self, node: &Node) -> String {
        match &node.kind {
            Kind::AskTogether(form) => self.wording(&node.id, &form.say),
            Kind::OpenAsk(open) => self.wording(&node.id, &open.say),
            Kind::ReadBack(back) => self.wording(&node.id, &back.say),
            _ => String::new(),
        }
    }

    fn node_of_open(&self) -> Option<(usize, &'a Node)> {
        let plan = self.plan;
        plan.turn(&self.state.asking.as_ref()?.turn)
    }

    /// A form that was sent: every answer is kept, or every problem is named.
    pub(super) fn form(&mut self, values: &BTreeMap<String, String>) {
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

    pub(super) fn keep_of_form(&mut self, turn: &str, field: usize, value: Option<Value>) {
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
    pub(super) fn form_reply(&mut self, text: &str) {
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
                });
            }
            let next = if let Kind::AskTogether(form) = &node.kind { way_of(form, true, node) } else { node.next };
            self.go_on(next);
        }
    }

    fn read_free(&self, reader: &lumbo_reading::FreeReader, text: &str) -> Vec<Taken> {
        reader.read(text, self.known(None).reading())
    }

    /// A reply to an open question: what it says is kept and said back, what is missing is asked for.
    pub(super) fn open_reply(&mut self, text: &str) {
        let Some((index, node)) = self.node_of_open() else {
            return self.fall_back("the open question is not in this release any more");
        };
        let Kind::OpenAsk(open) = &node.kind else { return };
        let taken = self.read_free(&open.reader, text);
        let extras = self.state.asking.as_ref().map_or(0, |asking| asking.extras);
        if taken.is_empty()
            && extras < self.plan.file.settings.extras_per_ask.clamp(1, 50)
            && (self.side_talk(None, text) || self.is_question(text) && self.side_talk_exact(None, text, &fold(text)))
        {
            return;
        }
        let mut words = Vec::new();
        for one in taken {
            let field = open.fields[one.field];
            let definition = &self.plan.file.fields[field];
            words.push(shown(definition, &one.value, &self.plan.language, &self.plan.file.language));
            self.keep_besides(field, one.value, Some(one.heard));
        }
        self.besides(text, None);
        let lines = if words.is_empty() {
            Vec::new()
        } else {
            vec![Line::Text { text: fill(self.plan.phrases.get("open.took"), &[("what", &words.join(", "))]) }]
        };
        self.emit(Event::OpenRead {
            turn: node.id.clone(),
            filled: u16::try_from(words.len()).unwrap_or(u16::MAX),
            lines,
        });
        let next = self.ask_missing(index);
        self.go_on(next);
    }

    /// Opens the next question of an Open ask for what is still missing; where nothing is, gives what follows.
    pub(super) fn ask_missing(&mut self, index: usize) -> Next {
        let plan = self.plan;
        let node = &plan.turns[index];
        let Kind::OpenAsk(open) = &node.kind else { return node.next };
        let asked = |id: &str| self.state.answers.iter().any(|answer| answer.turn == node.id && answer.field == id);
        let missing: Vec<usize> = open
            .fields
            .iter()
            .copied()
            .filter(|field| {
                let id = &plan.file.fields[*field].id;
                !self.state.values.contains_key(id)
                    && !asked(id)
                    && plan.readers.get(*field).is_some_and(Option::is_some)
            })
            .collect();
        let Some(first) = missing.first() else { return node.next };
        if open.together && missing.len() > 1 {
            let fields = missing.iter().map(|field| plan.file.fields[*field].id.clone()).collect();
            let text = plan.phrases.get("open.missing").to_owned();
            self.emit(Event::Asked { turn: node.id.clone(), text, stage: Stage::Form(fields) });
        } else {
            let stage = Stage::Field(plan.file.fields[*first].id.clone());
            self.open_field(&node.id, *first, stage);
        }
        Next::Wait
    }

    /// Opens the question about one field, in the words of its own ask.
    pub(super) fn open_field(&mut self, turn: &str, field: usize, stage: Stage) {
        let plan = self.plan;
        let ask = plan.asked_by.get(field).copied().flatten().map(|index| &plan.turns[index]);
        let text = match ask.map(|node| (&node.id, &node.kind)) {
            Some((id, Kind::Ask(ask))) => self.wording(id, &ask.say),
            _ => fill(plan.phrases.get("new.question"), &[("label", &plan.file.fields[field].label)]),
        };
        self.emit(Event::Asked { turn: turn.to_owned(), text, stage });
    }

    pub(super) fn read_back_pick(&mut self, option: &str) {
        let Some((_, node, back)) = open_read_back(self.plan, self.state) else { return };
        if option == ALL_RIGHT {
            self.emit(Event::Replied {
                turn: node.id.clone(),
                text: self.plan.phrases.get("ui.all_right").to_owned(),
                picked: true,
            });
            return self.all_right(node);
        }
        let Some(field) = back.fields.iter().copied().find(|field| self.plan.file.fields[*field].key == option) else {
            return;
        };
        let definition = &self.plan.file.fields[field];
        self.emit(Event::Replied { turn: node.id.clone(), text: definition.label.clone(), picked: true });
        self.open_field(&node.id, field, Stage::Field(definition.id.clone()));
    }

    fn all_right(&mut self, node: &'a Node) {
        self.emit(Event::AllRight { turn: node.id.clone() });
        self.go_on(node.next);
    }

    /// A typed reply to a Read back: all is right, a new value, or which one is wrong.
    pub(super) fn read_back_reply(&mut self, text: &str) {
        let Some((_, node, back)) = open_read_back(self.plan, self.state) else {
            return self.fall_back("the open question is not in this release any more");
        };
        let language = Language::get(&self.plan.language);
        let said = fold(text);
        if language.control.done.contains(&said)
            || lumbo_reading::yes_or_no(text, &self.plan.language) == Some(true) && Scan::new(text).tokens.len() <= 4
        {
            return self.all_right(node);
        }
        let taken = self.read_free(&back.reader, text);
        let changed = taken.into_iter().find(|one| {
            let id = &self.plan.file.fields[back.fields[one.field]].id;
            self.state.values.get(id).is_none_or(|held| held.value != one.value)
        });
        if let Some(one) = changed {
            let field = self.plan.file.fields[back.fields[one.field]].id.clone();
            return self.change(&Change { turn: node.id.clone(), field, value: one.value });
        }
        // "The phone is wrong": the field that is named.
        let named = back
            .fields
            .iter()
            .enumerate()
            .filter(|(place, _)| back.reader.names(*place, text))
            .map(|(_, field)| *field)
            .collect::<Vec<_>>();
        if let [field] = named.as_slice() {
            let stage = Stage::Field(self.plan.file.fields[*field].id.clone());
            return self.open_field(&node.id, *field, stage);
        }
        if self.side_talk(None, text) {
            return;
        }
        let extras = self.state.asking.as_ref().map_or(0, |asking| asking.extras);
        if extras >= self.plan.file.settings.extras_per_ask.clamp(1, 50) {
            return self.all_right(node);
        }
        let message = self.plan.phrases.get("read_back.which").to_owned();
        self.emit(Event::NotChanged { turn: node.id.clone(), field: String::new(), message });
    }
}

fn way_of(form: &FormNode, failed: bool, node: &Node) -> Next {
    match form.way_out {
        ReadyWayOut::Go(next) if failed => next,
        _ => node.next,
    }
}
