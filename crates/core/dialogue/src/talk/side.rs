//! What a prospect says beside the question: control words, side-talk, why we ask, offers, silence.

use super::step::{One, Run, open_one};
use super::{Event, Line, Stage, WhyOut};
use crate::file::brief::PhraseMatch;
use crate::plan::{ReadyTalk, TalkNode};
use lumbo_language::near::{Sketch, phrase_is_near};
use lumbo_language::{Language, fold};

impl<'a> Run<'a> {
    /// Control words, when they are the whole reply, folded; true where it was one.
    pub(crate) fn control(&mut self, said: &str) -> bool {
        let words = &Language::get(&self.plan.language).control;
        if words.start_over.contains(said) {
            self.start_over();
            return true;
        }
        if words.back.contains(said) && !self.state.answers.is_empty() {
            self.back();
            return true;
        }
        if words.person.contains(said) {
            let line = Line::Text { text: self.plan.phrases.get("side.person").to_owned() };
            self.talk_back(open_one(self.plan, self.state), None, "wants a person", vec![line]);
            return true;
        }
        false
    }

    /// True where a reply is shaped like a question.
    pub(crate) fn is_question(&self, text: &str) -> bool {
        text.trim_end().ends_with('?') || Language::get(&self.plan.language).opens_question(text)
    }

    /// True where a reply ends in a question mark and begins like a question or has five words: "50?" is an unsure
    /// answer.
    pub(crate) fn asks_something(&self, text: &str) -> bool {
        let opens = Language::get(&self.plan.language).opens_question(text);
        text.trim_end().ends_with('?') && (opens || text.split_whitespace().count() >= 5)
    }

    /// Side-talk that comes before a value: an exact phrase, or a question. True where it was.
    pub(crate) fn side_talk_exact(&mut self, one: Option<One<'a>>, text: &str, said: &str) -> bool {
        if self.exhausted() {
            return false;
        }
        if let Some(talk) = self.plan.side_talk.iter().find(|talk| talk.phrases.iter().any(|phrase| phrase == said)) {
            return self.answer_talk(one, talk, said);
        }
        if !text.trim_end().ends_with('?') && !self.is_why(said) {
            return false;
        }
        self.side_talk(one, text) || self.unknown_question(one)
    }

    /// Side-talk by its phrases, with small typos, or a question why we ask. True where it was.
    pub(crate) fn side_talk(&mut self, one: Option<One<'a>>, text: &str) -> bool {
        if self.exhausted() {
            return false;
        }
        let said = fold(text);
        if let Some(talk) = self.plan.side_talk.iter().find(|talk| matches(talk, &said)) {
            return self.answer_talk(one, talk, &said);
        }
        if self.is_why(&said) {
            let why = one.and_then(|one| one.ask).and_then(|ask| ask.why.as_ref()).map(|why| self.render(why));
            let text = why.unwrap_or_else(|| self.plan.phrases.get("side.why").to_owned());
            self.talk_back(one, None, "asks why", vec![Line::Text { text }]);
            return true;
        }
        false
    }

    fn is_why(&self, said: &str) -> bool {
        Language::get(&self.plan.language).control.why.has_near(said)
    }

    /// A question that nothing answers, where nearly anything could be a value.
    pub(crate) fn unknown_question(&mut self, one: Option<One<'a>>) -> bool {
        let line = Line::Text { text: self.plan.phrases.get("side.unknown").to_owned() };
        self.talk_back(one, None, "asks something else", vec![line]);
        true
    }

    /// True once a conversation has had its share of side-talk; what follows counts as tries, so that nobody is held in
    /// a loop.
    pub(crate) fn exhausted(&self) -> bool {
        self.state.side_talk >= u16::from(self.plan.file.settings.side_talk_in_all.clamp(1, 200))
    }

    fn answer_talk(&mut self, one: Option<One<'a>>, talk: &'a TalkNode, said: &str) -> bool {
        match &talk.does {
            ReadyTalk::Answer(parts) => {
                let lines = parts.iter().map(|part| self.part(&talk.id, part)).collect();
                self.about(said);
                self.talk_back(one, Some(talk.id.clone()), &talk.phrases[0], lines);
                true
            }
            ReadyTalk::Go(next) => {
                // A held question is not left.
                if one.and_then(|one| one.ask).is_some_and(|ask| ask.held) {
                    self.talk_back(one, Some(talk.id.clone()), &talk.phrases[0], Vec::new());
                    return true;
                }
                let turn = self.state.asking.as_ref().map(|asking| asking.turn.clone()).unwrap_or_default();
                self.emit(Event::SideTalked {
                    turn,
                    talk: Some(talk.id.clone()),
                    what: talk.phrases[0].clone(),
                    lines: Vec::new(),
                });
                self.go_on(*next);
                true
            }
        }
    }

    /// Says something back, shows an offer where one is due, and asks the open question again.
    pub(crate) fn talk_back(&mut self, one: Option<One<'a>>, talk: Option<String>, what: &str, lines: Vec<Line>) {
        let turn = self.state.asking.as_ref().map(|asking| asking.turn.clone()).unwrap_or_default();
        self.emit(Event::SideTalked { turn, talk, what: what.to_owned(), lines });
        self.offer();
        match one {
            Some(one) => {
                let extras = self.state.asking.as_ref().map_or(0, |asking| asking.extras);
                if extras >= self.plan.file.settings.extras_per_ask.clamp(1, 50) {
                    return self.leave(one, WhyOut::Extras);
                }
                self.ask_again(one);
            }
            None => self.ask_open_again(),
        }
    }

    /// After every so many free messages an offer, in rotation.
    fn offer(&mut self) {
        let messages = self.state.side_talk;
        let due: Vec<usize> = self
            .plan
            .offers
            .iter()
            .enumerate()
            .filter(|(_, offer)| offer.every.is_some_and(|every| messages.is_multiple_of(u16::from(every))))
            .map(|(index, _)| index)
            .collect();
        if let Some(index) = due.get(usize::from(self.state.offered) % due.len().max(1)) {
            self.show_offer(*index);
        }
    }

    /// The offer for what they ask about.
    fn about(&mut self, said: &str) {
        let asked = self.plan.offers.iter().position(|offer| offer.about.iter().any(|words| has_words(said, words)));
        if let Some(index) = asked {
            self.show_offer(index);
        }
    }

    fn show_offer(&mut self, index: usize) {
        let offer = &self.plan.offers[index];
        let lines = offer.say.iter().map(|part| self.part(&offer.id, part)).collect();
        self.emit(Event::Offered { offer: offer.id.clone(), lines });
    }

    /// Asks whether they are still there.
    pub(crate) fn nudge(&mut self) {
        let message = self.plan.phrases.get("nudge").to_owned();
        self.emit(Event::Nudged { message });
    }

    /// The question of what is open besides a single field, once more.
    pub(crate) fn ask_open_again(&mut self) {
        let Some(asking) = self.state.asking.clone() else { return };
        let text = match asking.stage {
            Stage::Ask | Stage::Confirm | Stage::Field(_) => {
                open_one(self.plan, self.state).map(|one| self.question(one, true))
            }
            _ => self.plan.turn(&asking.turn).map(|(_, node)| self.line_above(node)),
        };
        if let Some(text) = text {
            self.emit(Event::AskedAgain { turn: asking.turn, text });
        }
    }
}

/// True where a reply is one of a side-talk's phrases, as much of it as the author says, with small typos.
fn matches(talk: &TalkNode, said: &str) -> bool {
    talk.phrases.iter().any(|phrase| match talk.matches {
        PhraseMatch::Whole => said == phrase || near(phrase, said),
        PhraseMatch::Part => has_words(said, phrase) || near(phrase, said),
        PhraseMatch::Words => phrase.split(' ').all(|word| {
            said.split(|c: char| !c.is_alphanumeric() && c != '\'').any(|other| other == word || near(word, other))
        }),
    })
}

fn near(phrase: &str, said: &str) -> bool {
    phrase_is_near(phrase, Sketch::of(phrase), said, Sketch::of(said))
}

fn has_words(text: &str, words: &str) -> bool {
    text.match_indices(words).any(|(at, _)| {
        let before = text[..at].chars().next_back();
        let after = text[at + words.len()..].chars().next();
        !before.is_some_and(char::is_alphanumeric) && !after.is_some_and(char::is_alphanumeric)
    })
}
