//! One open question about one field: understanding the reply, keeping the answer, leaving without one.
//!
//! The order in which a typed reply is understood: control words as the whole reply; an option as it stands; for free
//! text, names and companies an exact side-talk phrase or a question; a value, whose failed rule is a retry; an option
//! in a sentence or with small typos; side-talk; else a retry.

use std::borrow::Cow;

use super::replay::Change;
use super::step::{One, Run, open_one};
use super::{Event, Line, Prefill, PrefillTo, Stage, WhyOut};
use crate::file::FieldType;
use crate::plan::{Kind, Next, ReadyWayOut};
use lumbo_language::fold;
use lumbo_reading::{Heard, ReadContext, Reading, shown};
use lumbo_value::{Missing, Value};

impl<'a> Run<'a> {
    /// A typed reply to whatever is open.
    pub(crate) fn reply(&mut self, text: &str) {
        // U+0000 cannot be kept everywhere an event goes; its stand-in can.
        let kept: Cow<'_, str> =
            if text.as_bytes().contains(&0) { text.replace('\0', "\u{fffd}").into() } else { text.into() };
        let text = &*kept;
        let Some(asking) = self.state.asking.clone() else {
            return self.fall_back("the open question is not in this release any more");
        };
        self.emit(Event::Replied { turn: asking.turn.clone(), text: text.to_owned(), picked: false });
        let said = fold(text);
        if self.control(&said) {
            return;
        }
        match &asking.stage {
            Stage::Open => self.open_reply(text),
            Stage::ReadBack => self.read_back_reply(text),
            Stage::Form(_) => self.form_reply(text),
            Stage::Confirm => self.confirm_reply(text),
            Stage::Ask | Stage::Field(_) => match open_one(self.plan, self.state) {
                Some(one) => self.one_reply(one, text, &said),
                None => self.fall_back("the open question is not in this release any more"),
            },
        }
    }

    /// A reply to one open question; `said` is the reply folded.
    fn one_reply(&mut self, one: One<'a>, text: &str, said: &str) {
        let field = &self.plan.file.fields[one.field];
        // A word for it, or what stands on the skip itself.
        if one.skip.is_some_and(|label| one.reader.is_skip(text) || fold(&self.render(label)) == said) {
            return self.leave(one, WhyOut::Skipped);
        }
        if self.correction(one, text) {
            return;
        }
        if one.reader.takes_anything() && self.side_talk_exact(Some(one), text, said) {
            return;
        }
        if self.meant(one, text) {
            return;
        }
        let tried = self.state.asking.as_ref().map_or(0, |asking| asking.tries);
        let reading = self.read(one, text, tried);
        // "What's the difference between frozen and chilled?" names options and picks none.
        let optional = field.kind.has_options() || field.kind == FieldType::YesNo;
        if optional
            && !matches!(reading, Reading::Declined)
            && self.is_question(text)
            && one.reader.named_exactly(text).is_none()
            && self.side_talk(Some(one), text)
        {
            return;
        }
        match reading {
            // "Can I rent fewer than 5?" holds a value and gives none.
            Reading::Value { .. }
                if !optional && !one.reader.takes_anything() && self.asks_something(text) && !self.exhausted() =>
            {
                if !self.side_talk(Some(one), text) {
                    self.unknown_question(Some(one));
                }
            }
            Reading::Value { value, .. } if self.asks_back(one, &value) => {}
            Reading::Value { value, heard } => {
                self.besides(text, Some(one.field));
                self.keep(one, value, Some(heard));
            }
            Reading::Declined => self.leave(one, WhyOut::Declined),
            Reading::Tie(options) => {
                let message = one.reader.tie_question(&options);
                self.emit(Event::Tied { turn: one.node.id.clone(), options, message });
                self.bound_extras(one);
            }
            Reading::Failed { failed, message, heard, refused } => {
                // A question costs no try, whatever was asked and whatever it holds.
                let asks = self.asks_something(text) || failed.contains(&"type") && self.is_question(text);
                if (failed.contains(&"type") || asks) && self.side_talk(Some(one), text) {
                    return;
                }
                if asks && !self.exhausted() {
                    self.unknown_question(Some(one));
                    return;
                }
                if failed.contains(&"type") {
                    // A reply that only fills other fields costs no try.
                    if self.besides(text, Some(one.field)) {
                        self.ask_again(one);
                        return self.bound_extras(one);
                    }
                }
                let attempt = tried.saturating_add(1);
                let failed = failed.into_iter().map(str::to_owned).collect();
                self.emit(Event::NotKept {
                    turn: one.node.id.clone(),
                    field: field.id.clone(),
                    failed,
                    message,
                    heard,
                    refused,
                    attempt,
                    of: one.tries,
                });
                if attempt >= one.tries {
                    self.leave(one, WhyOut::Tries);
                }
            }
        }
    }

    /// An address with a letter wrong in a well-known service is asked back once, and never changed by itself.
    fn asks_back(&mut self, one: One<'a>, value: &Value) -> bool {
        let (FieldType::Email, Value::Text { text }) = (one.reader.kind(), value) else { return false };
        let Some((name, domain)) = text.rsplit_once('@') else { return false };
        let Some(service) = lumbo_reading::domains::slip_of(domain) else { return false };
        let perhaps = format!("{name}@{service}");
        if self.state.asking.as_ref().is_some_and(|asking| asking.either.contains(text)) {
            return false;
        }
        let phrase = self.plan.phrases.get("perhaps");
        let message = lumbo_language::fill(phrase, &[("perhaps", &perhaps), ("heard", text)]);
        let options = vec![perhaps, text.clone()];
        self.emit(Event::Tied { turn: one.node.id.clone(), options, message });
        self.bound_extras(one);
        true
    }

    /// A yes or no to an address that was asked back.
    fn meant(&mut self, one: One<'a>, text: &str) -> bool {
        let either = self.state.asking.as_ref().map_or(&[][..], |asking| asking.either.as_slice());
        let (FieldType::Email, [perhaps, typed]) = (one.reader.kind(), either) else { return false };
        let meant = match lumbo_reading::yes_or_no(text, &self.plan.language) {
            Some(yes) if !text.contains('@') => if yes { perhaps } else { typed }.clone(),
            _ => return false,
        };
        match self.read(one, &meant, 0) {
            Reading::Value { value, .. } => self.keep(one, value, None),
            // The likelier one is not taken here: what a rule says of it is told.
            _ => return false,
        }
        true
    }

    /// Reads a reply for one field, with what is known beside.
    pub(crate) fn read(&self, one: One<'a>, text: &str, tried: u8) -> Reading {
        let known = self.known(None);
        let earlier = self.state.refused.get(&self.plan.file.fields[one.field].id);
        one.reader.read(text, ReadContext { earlier, ..known.reading() }, tried)
    }

    /// Leaves the question after too many ties and remarks.
    pub(crate) fn bound_extras(&mut self, one: One<'a>) {
        let extras = self.state.asking.as_ref().map_or(0, |asking| asking.extras);
        if extras >= self.plan.file.settings.extras_per_ask.clamp(1, 50) {
            self.leave(one, WhyOut::Extras);
        }
    }

    /// Keeps what a reply says unmistakably besides; true where it says anything.
    pub(crate) fn besides(&mut self, text: &str, but: Option<usize>) -> bool {
        // What may be volunteered holds a digit, an at sign or a dot; a day or a town may stand in words.
        let marked = text.contains(|c: char| c.is_ascii_digit() || c == '@' || c == '.');
        let (reader, fields) = &self.plan.volunteered;
        let told_in_words =
            |field: &usize| matches!(self.plan.file.fields[*field].kind, FieldType::Date | FieldType::Place);
        let worded = text.contains(' ') && fields.iter().any(told_in_words);
        if fields.is_empty() || !(marked || worded) {
            return false;
        }
        let lacking: Vec<bool> =
            fields.iter().map(|field| !self.state.values.contains_key(&self.plan.file.fields[*field].id)).collect();
        let in_words = |(field, lacking): (&usize, &bool)| *lacking && Some(*field) != but && told_in_words(field);
        if !(marked && lacking.contains(&true) || fields.iter().zip(&lacking).any(in_words)) {
            return false;
        }
        let mut taken = reader.volunteered(text, self.known(None).reading(), &lacking);
        taken.retain(|one| Some(fields[one.field]) != but);
        if taken.is_empty() {
            return false;
        }
        let mut words = Vec::new();
        for one in taken {
            let definition = &self.plan.file.fields[fields[one.field]];
            let value = shown(definition, &one.value, &self.plan.language, &self.plan.file.language);
            // A bare number says nothing by itself.
            let bare = matches!(one.value, Value::Number(_)) && definition.unit.is_none();
            words.push(if bare { format!("{} {value}", definition.label.to_lowercase()) } else { value });
            self.keep_besides(fields[one.field], one.value, Some(one.heard));
        }
        let turn = self.state.asking.as_ref().map(|asking| asking.turn.clone()).unwrap_or_default();
        let text = lumbo_language::fill(self.plan.phrases.get("besides.took"), &[("what", &words.join(", "))]);
        self.emit(Event::Said { turn, lines: vec![Line::Text { text }] });
        true
    }

    /// Keeps a value that was not asked for by the open question.
    pub(crate) fn keep_besides(&mut self, field: usize, value: Value, heard: Option<Heard>) {
        let definition = &self.plan.file.fields[field];
        let before = self.state.points;
        let after = self.points_with(definition, Some(&value));
        let others = self.others_with(definition, Some(&value));
        let shown = shown(definition, &value, &self.plan.language, &self.plan.file.language);
        let turn = self.state.asking.as_ref().map(|asking| asking.turn.clone()).unwrap_or_default();
        self.emit(Event::Kept {
            turn,
            field: definition.id.clone(),
            value,
            shown,
            heard,
            besides: true,
            before,
            after,
            others,
        });
    }

    pub(crate) fn keep(&mut self, one: One<'a>, value: Value, heard: Option<Heard>) {
        let field = &self.plan.file.fields[one.field];
        if matches!(one.node.kind, Kind::ReadBack(_)) {
            return self.change(&Change {
                turn: one.node.id.clone(),
                field: field.id.clone(),
                value: self.stamped(value),
            });
        }
        let value = self.stamped(value);
        let before = self.state.points;
        let after = self.points_with(field, Some(&value));
        let others = self.others_with(field, Some(&value));
        let shown = shown(field, &value, &self.plan.language, &self.plan.file.language);
        self.emit(Event::Kept {
            turn: one.node.id.clone(),
            field: field.id.clone(),
            value,
            shown,
            heard,
            besides: false,
            before,
            after,
            others,
        });
        let next = self.behind(one);
        self.go_on(next);
    }

    /// Consent with the wording's version and the time.
    pub(crate) fn stamped(&self, value: Value) -> Value {
        match value {
            Value::Consent { wording: 0, given, .. } => {
                let wording = self.plan.file.settings.consent_wording.max(1);
                Value::Consent { wording, at: self.now.to_string(), given }
            }
            other => other,
        }
    }

    /// What follows an answered question: the Ask's arm, or what an Open ask still lacks.
    fn behind(&mut self, one: One<'a>) -> Next {
        match &one.node.kind {
            Kind::Ask(ask) if one.own => self.answer_arm(one.index, one.node, ask),
            Kind::OpenAsk(_) => self.ask_missing(one.index),
            _ => one.node.next,
        }
    }

    /// Leaves a question without an answer: no option arm runs.
    pub(crate) fn leave(&mut self, one: One<'a>, why: WhyOut) {
        let missing = match why {
            WhyOut::Declined => Missing::Declined,
            WhyOut::Skipped => Missing::Skipped,
            WhyOut::Tries | WhyOut::Extras => Missing::NotReadable,
        };
        if let Kind::ReadBack(_) = one.node.kind {
            // What was kept stays; the list is shown again.
            return self.go_on(Next::Turn(one.index));
        }
        // Who ran out of tries is told that it does not matter.
        let message =
            matches!(why, WhyOut::Tries | WhyOut::Extras).then(|| self.plan.phrases.get("way_out.said").to_owned());
        self.emit(Event::LeftOpen {
            turn: one.node.id.clone(),
            field: self.plan.file.fields[one.field].id.clone(),
            why,
            missing,
            message,
        });
        let next = if one.own { self.way_out(one, why) } else { self.behind(one) };
        self.go_on(next);
    }

    pub(crate) fn way_out(&mut self, one: One<'a>, why: WhyOut) -> Next {
        // With a skip on offer, declining is skipping; both simply go on.
        if why == WhyOut::Skipped || why == WhyOut::Declined && one.skip.is_some() {
            return one.node.next;
        }
        match one.ask.map(|ask| ask.way_out) {
            Some(ReadyWayOut::Go(next)) => next,
            Some(ReadyWayOut::Arm(arm)) => self.take(one.index, Some(arm)),
            _ => one.node.next,
        }
    }

    pub(crate) fn pick(&mut self, option: &str) {
        let Some(asking) = self.state.asking.clone() else {
            return self.fall_back("the open question is not in this release any more");
        };
        match asking.stage {
            Stage::Confirm => self.confirm(option == "yes", self.plan.phrases.get(option).to_owned()),
            Stage::ReadBack => self.read_back_pick(option),
            _ => {
                let Some(one) = open_one(self.plan, self.state) else {
                    return self.fall_back("the open question is not in this release any more");
                };
                let consent = (one.reader.kind() == FieldType::Consent)
                    .then(|| self.plan.phrases.get(if option == "yes" { "ui.agree" } else { "ui.disagree" }));
                let label = consent
                    .or_else(|| one.reader.options().find(|(key, _)| *key == option).map(|(_, label)| label))
                    .unwrap_or(option)
                    .to_owned();
                self.emit(Event::Replied { turn: one.node.id.clone(), text: label, picked: true });
                if let Some(value) = one.reader.pick(option) {
                    self.judge_picked(one, value);
                }
            }
        }
    }

    pub(crate) fn pick_several(&mut self, options: &[String]) {
        let Some(one) = open_one(self.plan, self.state) else {
            return self.fall_back("the open question is not in this release any more");
        };
        let labels: Vec<&str> = one
            .reader
            .options()
            .filter(|(key, _)| options.iter().any(|option| option == key))
            .map(|(_, label)| label)
            .collect();
        self.emit(Event::Replied { turn: one.node.id.clone(), text: labels.join(", "), picked: true });
        if let Some(value) = one.reader.pick_several(options) {
            self.judge_picked(one, value);
        }
    }

    /// A tapped answer passes the rules like a typed one: at most so many options, not in the past.
    fn judge_picked(&mut self, one: One<'a>, value: Value) {
        let tried = self.state.asking.as_ref().map_or(0, |asking| asking.tries);
        let reading = { one.reader.judge(value, Heard::default(), self.known(None).reading(), tried) };
        match reading {
            Reading::Value { value, .. } => self.keep(one, value, None),
            Reading::Failed { failed, message, refused, .. } => {
                let attempt = tried.saturating_add(1);
                let failed = failed.into_iter().map(str::to_owned).collect();
                let field = self.plan.file.fields[one.field].id.clone();
                self.emit(Event::NotKept {
                    turn: one.node.id.clone(),
                    field,
                    failed,
                    message,
                    heard: None,
                    refused,
                    attempt,
                    of: one.tries,
                });
                if attempt >= one.tries {
                    self.leave(one, WhyOut::Tries);
                }
            }
            Reading::Declined | Reading::Tie(_) => {}
        }
    }

    pub(crate) fn skip(&mut self) {
        let Some(one) = open_one(self.plan, self.state) else {
            return self.fall_back("the open question is not in this release any more");
        };
        let label = one.skip.map(|skip| self.render(skip)).unwrap_or_default();
        self.emit(Event::Replied { turn: one.node.id.clone(), text: label, picked: true });
        self.leave(one, WhyOut::Skipped);
    }

    fn confirm_reply(&mut self, text: &str) {
        let Some(one) = open_one(self.plan, self.state) else {
            return self.fall_back("the open question is not in this release any more");
        };
        let said = lumbo_reading::yes_or_no(text, &self.plan.language);
        // "No, it's tom@…" brings the new value along.
        if said == Some(false)
            && !matches!(one.reader.kind(), FieldType::Text | FieldType::LongText | FieldType::YesNo)
            && let Reading::Value { value, heard } = self.read(one, text, 0)
            && heard.text != text.trim()
        {
            return self.keep(one, value, Some(heard));
        }
        match said {
            Some(yes) => self.decide_confirm(one, yes),
            // The new value alone.
            None => self.one_reply(one, text, &fold(text)),
        }
    }

    fn confirm(&mut self, yes: bool, label: String) {
        let Some(one) = open_one(self.plan, self.state) else {
            return self.fall_back("the open question is not in this release any more");
        };
        self.emit(Event::Replied { turn: one.node.id.clone(), text: label, picked: true });
        self.decide_confirm(one, yes);
    }

    fn decide_confirm(&mut self, one: One<'a>, yes: bool) {
        let field = self.plan.file.fields[one.field].id.clone();
        let Kind::Ask(ask) = &one.node.kind else { return };
        if yes {
            self.emit(Event::KnownAlready { turn: one.node.id.clone(), field });
            let next = self.answer_arm(one.index, one.node, ask);
            return self.go_on(next);
        }
        let text = self.wording(&one.node.id, &ask.say);
        self.emit(Event::Asked { turn: one.node.id.clone(), text, stage: Stage::Ask });
    }

    /// Takes a value that the site, the channel or whoever enters a lead knows. What cannot be read as the field's
    /// type, or fails the rules of its ask, is not taken, with a sentence that says why; nor is a consent, which only
    /// the prospect can give, nor a second value for the same field.
    pub(crate) fn prefill(&mut self, given: &Prefill) -> Result<(), String> {
        let field = self.plan.file.fields.iter().position(|field| match &given.to {
            PrefillTo::Key(key) => field.key == *key,
            PrefillTo::Type(kind) => field.kind == *kind,
        });
        let field = field.ok_or("this dialogue has no such field")?;
        let definition = &self.plan.file.fields[field];
        if definition.kind == FieldType::Consent {
            return Err("only whoever was asked can give a consent".to_owned());
        }
        if self.state.values.contains_key(&definition.id) {
            return Err("it is known already".to_owned());
        }
        let reader = self.plan.readers.get(field).and_then(Option::as_ref).ok_or("this field reads nothing")?;
        match reader.read(&given.text, self.known(None).reading(), 0) {
            Reading::Value { value, .. } => {
                let before = self.state.points;
                let after = self.points_with(definition, Some(&value));
                let others = self.others_with(definition, Some(&value));
                let shown = shown(definition, &value, &self.plan.language, &self.plan.file.language);
                self.emit(Event::Prefilled { field: definition.id.clone(), value, shown, before, after, others });
                Ok(())
            }
            Reading::Failed { message, .. } => Err(message),
            Reading::Tie(keys) => Err(reader.tie_question(&keys)),
            Reading::Declined => Ok(()),
        }
    }

    /// Asks the open question again, in short.
    pub(crate) fn ask_again(&mut self, one: One<'a>) {
        let text = self.question(one, true);
        self.emit(Event::AskedAgain { turn: one.node.id.clone(), text });
    }

    /// The words of a question about one field.
    pub(crate) fn question(&self, one: One<'a>, short: bool) -> String {
        match one.ask {
            Some(ask) => match ask.short.as_ref().filter(|_| short) {
                Some(words) => self.render(words),
                None => self.wording(&one.node.id, &ask.say),
            },
            None => {
                let field = &self.plan.file.fields[one.field];
                lumbo_language::fill(self.plan.phrases.get("new.question"), &[("label", &field.label)])
            }
        }
    }
}
