//! A reply to an open question, and asking for what it left out.

use lumbo_language::{fill, fold};
use lumbo_reading::shown;

use crate::plan::{Kind, Next};
use crate::talk::step::Run;
use crate::talk::{Event, Line, Stage};

impl Run<'_> {
    /// A reply to an open question: what it says is kept and said back, what is missing is asked for.
    pub(crate) fn open_reply(&mut self, text: &str) {
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
    pub(crate) fn ask_missing(&mut self, index: usize) -> Next {
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
    pub(crate) fn open_field(&mut self, turn: &str, field: usize, stage: Stage) {
        let plan = self.plan;
        let ask = plan.asked_by.get(field).copied().flatten().map(|index| &plan.turns[index]);
        let text = match ask.map(|node| (&node.id, &node.kind)) {
            Some((id, Kind::Ask(ask))) => self.wording(id, &ask.say),
            _ => fill(plan.phrases.get("new.question"), &[("label", &plan.file.fields[field].label)]),
        };
        self.emit(Event::Asked { turn: turn.to_owned(), text, stage });
    }
}
