//! Changing an earlier answer: the outline is run again from its beginning with the answers that were given, the new
//! one among them. Later answers stay where the same question comes up again and still takes them; what is no longer on
//! the way is dropped, and named. A lead that was filed is filed again, which amends it.

use super::step::{One, Run, open_one};
use super::{Answer, Came, Event, Stage, State};
use crate::plan::Kind;
use lumbo_reading::{Heard, Reading, shown};
use lumbo_value::Value;

/// Most answers that are replayed.
const REPLAY_LIMIT: usize = 2_000;

/// A new value for a field.
#[derive(Debug, Clone)]
pub(crate) struct Change {
    /// The turn at which it was changed.
    pub turn: String,
    /// The field by id.
    pub field: String,
    /// The value.
    pub value: Value,
}

impl<'a> Run<'a> {
    /// Changes the answer of a turn to what was typed or tapped.
    pub(crate) fn revise(&mut self, turn: &str, text: &str, picked: bool) {
        let text = &*text.replace('\0', "\u{fffd}");
        let Some(answer) = self
            .state
            .answers
            .iter()
            .rev()
            .find(|answer| answer.turn == turn && !answer.besides && answer.came != Came::Passed)
            .or_else(|| self.state.answers.iter().rev().find(|answer| answer.turn == turn))
            .cloned()
        else {
            return;
        };
        let Some(field) = self.plan.file.fields.iter().position(|field| field.id == answer.field) else { return };
        let Some(reader) = self.reader_at(turn, field) else { return };
        let picked = if picked {
            let several: Vec<String> = text.split(',').map(str::trim).map(str::to_owned).collect();
            reader.pick_several(&several).or_else(|| reader.pick(text))
        } else {
            None
        };
        let known = self.known(None);
        let reading = match picked {
            Some(value) => reader.judge(value, Heard::default(), known.reading(), 0),
            None => reader.read(text, known.reading(), 0),
        };
        let definition = &self.plan.file.fields[field];
        match reading {
            Reading::Value { value, .. } => {
                let value = self.stamped(value);
                let words = shown(definition, &value, &self.plan.language, &self.plan.file.language);
                self.emit(Event::Replied { turn: turn.to_owned(), text: words, picked: true });
                self.change(&Change { turn: turn.to_owned(), field: definition.id.clone(), value });
            }
            other => {
                self.emit(Event::Replied { turn: turn.to_owned(), text: text.to_owned(), picked: false });
                let message = match other {
                    Reading::Failed { message, .. } => message,
                    Reading::Tie(options) => reader.tie_question(&options),
                    _ => self.plan.phrases.get("rule.required").to_owned(),
                };
                self.emit(Event::NotChanged { turn: turn.to_owned(), field: definition.id.clone(), message });
                self.ask_open_again();
            }
        }
    }

    /// The reader of a field at a turn: of the form or the ask, else of its own ask.
    fn reader_at(&self, turn: &str, field: usize) -> Option<&'a lumbo_reading::Reader> {
        let plan = self.plan;
        match plan.turn(turn).map(|(_, node)| &node.kind) {
            Some(Kind::Ask(ask)) if ask.field == field => Some(&ask.reader),
            Some(Kind::AskTogether(form)) => {
                form.fields.iter().find(|wanted| wanted.field == field).map(|wanted| &wanted.reader)
            }
            _ => plan.readers.get(field)?.as_ref(),
        }
    }

    /// Puts a new value in the place of the last answer about a field, and replays.
    pub(crate) fn change(&mut self, change: &Change) {
        let mut answers = self.state.answers.clone();
        let place = answers
            .iter()
            .rposition(|answer| answer.field == change.field && answer.turn == change.turn && !answer.besides)
            .or_else(|| answers.iter().rposition(|answer| answer.field == change.field));
        match place {
            Some(place) => {
                answers[place].came = Came::Value(change.value.clone());
                // Where it was declined before, another turn passed it over; it is given where it was first asked for.
                for answer in answers
                    .iter_mut()
                    .filter(|answer| answer.field == change.field && matches!(answer.came, Came::Left(_)))
                {
                    answer.came = Came::Value(change.value.clone());
                }
            }
            None => {
                // It was known, worked out or never given: it is kept from here on.
                let field = self.plan.file.fields.iter().position(|field| field.id == change.field);
                if let Some(field) = field {
                    self.keep_besides(field, change.value.clone(), None);
                }
                return self.go_on_open();
            }
        }
        let definition = self.plan.field(&change.field);
        let words = definition.map(|field| shown(field, &change.value, &self.plan.language, &self.plan.file.language));
        let message = definition.zip(words.as_ref()).map(|(field, words)| {
            lumbo_language::fill(
                self.plan.phrases.get("read_back.changed"),
                &[("label", &field.label), ("value", words)],
            )
        });
        self.replay(&change.turn, Some(change.field.clone()), words, message, &answers);
    }

    /// Asks the open turn again after a change that needed no replay.
    fn go_on_open(&mut self) {
        if let Some((index, _)) = self.state.asking.as_ref().and_then(|asking| self.plan.turn(&asking.turn)) {
            self.go_on(crate::plan::Next::Turn(index));
        }
    }

    /// One question back: the last answer is taken back, with what was given beside it.
    pub(crate) fn back(&mut self) {
        let mut answers = self.state.answers.clone();
        let Some(turn) = answers.iter().rev().find(|answer| !answer.besides).map(|answer| answer.turn.clone()) else {
            return;
        };
        while answers.last().is_some_and(|answer| answer.turn == turn || answer.besides) {
            answers.pop();
        }
        self.replay(&turn, None, None, None, &answers);
    }

    /// Everything again, from the first question.
    pub(crate) fn start_over(&mut self) {
        self.replay("", None, None, None, &[]);
    }

    fn replay(
        &mut self,
        turn: &str,
        field: Option<String>,
        shown: Option<String>,
        message: Option<String>,
        answers: &[Answer],
    ) {
        let before = self.state.clone();
        let mut scratch = State {
            started: true,
            language: before.language.clone(),
            seed: before.seed,
            context: before.context.clone(),
            filings: before.filings,
            unfinished: before.unfinished,
            early: before.early,
            side_talk: before.side_talk,
            offered: before.offered,
            ..State::default()
        };
        // What was known before the first question stays.
        for (id, held) in before.values.iter().filter(|(_, held)| held.turn.is_empty()) {
            scratch.values.insert(id.clone(), held.clone());
        }
        let mut run = Run {
            plan: self.plan,
            state: &mut scratch,
            events: Vec::new(),
            effects: Vec::new(),
            today: self.today,
            now: self.now,
            domains: self.domains,
            at: None,
        };
        run.count_points();
        run.go_on(run.first());
        let mut used = vec![false; answers.len()];
        for _ in 0..REPLAY_LIMIT {
            if run.state.closed.is_some() || !run.answer_again(answers, &mut used) {
                break;
            }
        }
        let events = std::mem::take(&mut run.events);
        let dropped: Vec<String> =
            before.values.keys().filter(|id| !scratch.values.contains_key(*id)).cloned().collect();
        let filed = events.iter().rev().find(|event| matches!(event, Event::Filed { .. })).cloned();
        // What is new to them is said; the open question is asked again; an end is said again only where it is another.
        let mut say: Vec<Event> = events
            .iter()
            .filter(|event| matches!(event, Event::Said { turn, .. } if !before.said.contains(turn)))
            .cloned()
            .collect();
        let last = events
            .iter()
            .rev()
            .find(|event| matches!(event, Event::Asked { .. } | Event::Closed { .. } | Event::FellBack { .. }))
            .cloned();
        scratch.said.extend(before.said.iter().cloned());
        // A filing that is undone by the change stays done; one that is on the way again amends the record.
        scratch.filings = scratch.filings.max(before.filings);
        self.emit(Event::Revised { turn: turn.to_owned(), field, shown, message, dropped, to: Box::new(scratch) });
        say.extend(
            filed.filter(|_| before.filings > 0 || self.state.closed.is_some() || self.state.filings > before.filings),
        );
        say.extend(last);
        say.into_iter().for_each(|event| self.emit(event));
    }

    /// Answers the open question as it was answered before; false where it was not, or where the answer does not fit
    /// any more.
    fn answer_again(&mut self, answers: &[Answer], used: &mut [bool]) -> bool {
        let Some(asking) = self.state.asking.clone() else { return false };
        let mine = |used: &[bool], place: usize| !used[place] && answers[place].turn == asking.turn;
        // What a reply gave besides comes before the answer it came with.
        let besides: Vec<usize> =
            (0..answers.len()).filter(|place| mine(used, *place) && answers[*place].besides).collect();
        let main = (0..answers.len()).find(|place| mine(used, *place) && !answers[*place].besides);
        for place in besides {
            if main.is_none_or(|main| place < main) {
                used[place] = true;
                let field = self.plan.file.fields.iter().position(|field| field.id == answers[place].field);
                if let (Some(field), Came::Value(value)) = (field, &answers[place].came) {
                    self.keep_besides(field, value.clone(), None);
                }
            }
        }
        match asking.stage {
            Stage::Ask | Stage::Confirm | Stage::Field(_) => {
                let Some(one) = open_one(self.plan, self.state) else { return false };
                let id = &self.plan.file.fields[one.field].id;
                let Some(place) = (0..answers.len())
                    .find(|place| mine(used, *place) && !answers[*place].besides && answers[*place].field == *id)
                else {
                    return false;
                };
                used[place] = true;
                self.give_again(one, &answers[place].came)
            }
            Stage::Form(ids) => {
                let places: Vec<usize> = ids
                    .iter()
                    .filter_map(|id| {
                        (0..answers.len()).find(|place| mine(used, *place) && answers[*place].field == *id)
                    })
                    .collect();
                if places.len() < ids.len() {
                    return false;
                }
                let Some((_, node)) = self.plan.turn(&asking.turn) else { return false };
                for place in places {
                    used[place] = true;
                    let Some(field) = self.plan.file.fields.iter().position(|field| field.id == answers[place].field)
                    else {
                        return false;
                    };
                    let value = if let Came::Value(value) = &answers[place].came { Some(value.clone()) } else { None };
                    self.keep_of_form(&asking.turn, field, value);
                }
                self.go_on(node.next);
                true
            }
            Stage::Open => {
                let Some(place) = main.filter(|place| answers[*place].came == Came::Passed) else { return false };
                used[place] = true;
                self.emit(Event::OpenRead { turn: asking.turn.clone(), filled: 0, lines: Vec::new() });
                let Some((index, _)) = self.plan.turn(&asking.turn) else { return false };
                let next = self.ask_missing(index);
                self.go_on(next);
                true
            }
            // What was found right is shown again after a change before it.
            Stage::ReadBack => false,
        }
    }

    fn give_again(&mut self, one: One<'a>, came: &Came) -> bool {
        match came {
            Came::Value(value) => {
                let judged = one.reader.judge(value.clone(), Heard::default(), self.known(None).reading(), 0);
                let accepted = self.offers_still(one, value) && matches!(judged, Reading::Value { .. });
                if accepted {
                    self.keep(one, value.clone(), None);
                }
                accepted
            }
            Came::Left(why) => {
                self.leave(one, *why);
                true
            }
            Came::Passed => false,
        }
    }

    /// True where the options of an answer are still offered.
    fn offers_still(&self, one: One<'a>, value: &Value) -> bool {
        match value {
            Value::Choice { key } => one.reader.pick(key).is_some(),
            Value::Choices { keys } => one.reader.pick_several(keys).is_some(),
            _ => true,
        }
    }
}
