//! A reply to a Read back: all is right, a new value, or which one is wrong.

use lumbo_language::{Language, Scan, fold};

use crate::plan::Node;
use crate::talk::replay::Change;
use crate::talk::step::{ALL_RIGHT, Run, open_read_back};
use crate::talk::{Event, Stage};

impl<'a> Run<'a> {
    pub(crate) fn read_back_pick(&mut self, option: &str) {
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
    pub(crate) fn read_back_reply(&mut self, text: &str) {
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
        let changed = taken.into_iter().filter(|one| !self.plan.worked_out[back.fields[one.field]]).find(|one| {
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
            .filter(|(place, field)| !self.plan.worked_out[**field] && back.reader.names(*place, text))
            .map(|(_, field)| *field)
            .collect::<Vec<_>>();
        if let [field] = named.as_slice() {
            // "The guests are wrong, it's 80" brings the new value along.
            if let Some(value) = self.fits(*field, text, true) {
                let field = self.plan.file.fields[*field].id.clone();
                return self.change(&Change { turn: node.id.clone(), field, value });
            }
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
