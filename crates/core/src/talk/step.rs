//! The engine. One input in, events out; between two inputs it always stands at an open question or at the end.

use std::borrow::Cow;
use std::ops::Range;

use jiff::civil::Date;

use super::{Asking, Env, Event, Input, InputBody, Line, REPLY_INPUT_LIMIT, State, WhyOut};
use crate::condition::{Facts, span_decides};
use crate::field::{self, Heard, ReadContext, Reading, shown};
use crate::file::text::{Chip, Piece};
use crate::file::turn::IfKnown;
use crate::formula::Lookup;
use crate::outline::Plan;
use crate::outline::plan::{AskNode, Kind, Next, Node, ReadyFollow, ReadyPart, ReadyWayOut, ReadyWhen};
use crate::value::{Missing, Value};

/// Most inputs in one conversation.
pub const INPUT_LIMIT: u32 = 1_000;
/// Deepest nesting of visits.
const VISIT_LIMIT: usize = 50;

/// What an input came to.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Step {
    /// New events, folded into the state already.
    Events(Vec<Event>),
    /// The input was taken before; the numbers of the events it caused then.
    Repeated(Range<u32>),
}

/// Why an input was not taken. The state is as it was.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum Refusal {
    /// Another sequence number is expected.
    #[error("this conversation has gone on meanwhile: {expected} inputs were taken, not {found}")]
    Sequence {
        /// Inputs taken.
        expected: u32,
        /// What the sender expected.
        found: u32,
    },
    /// Not started, or started already.
    #[error("a conversation starts once, and before anything else")]
    Start,
    /// It has ended.
    #[error("this conversation has ended")]
    Ended,
    /// The open question has no such option.
    #[error("the open question has no option “{0}”")]
    NoOption(String),
    /// The open question cannot be skipped.
    #[error("the open question cannot be skipped")]
    NoSkip,
    /// Too many inputs.
    #[error("a conversation takes at most {INPUT_LIMIT} inputs")]
    TooMany,
    /// A reply or id too long.
    #[error("a reply has at most {REPLY_INPUT_LIMIT} bytes and an input’s id 1 to 64 plain characters")]
    TooLong,
}

/// Takes one input.
///
/// # Errors
/// A [`Refusal`]; the state is then unchanged.
pub fn step(plan: &Plan, state: &mut State, input: &Input, env: Env<'_>) -> Result<Step, Refusal> {
    if input.id.is_empty() || input.id.len() > 64 || !input.id.bytes().all(|byte| byte.is_ascii_graphic()) {
        return Err(Refusal::TooLong);
    }
    if let Some(index) = state.inputs.iter().rposition(|taken| taken.id == input.id) {
        let first = state.inputs[index].first;
        let end = state.inputs.get(index + 1).map_or(state.events, |next| next.first);
        return Ok(Step::Repeated(first..end));
    }
    if input.expects != state.sequence() {
        return Err(Refusal::Sequence { expected: state.sequence(), found: input.expects });
    }
    if state.closed.is_some() {
        return Err(Refusal::Ended);
    }
    if state.sequence() >= INPUT_LIMIT {
        return Err(Refusal::TooMany);
    }
    if state.started == matches!(input.body, InputBody::Start) {
        return Err(Refusal::Start);
    }
    let open = open_ask(plan, state);
    match &input.body {
        InputBody::Reply { text } if text.len() > REPLY_INPUT_LIMIT => return Err(Refusal::TooLong),
        InputBody::Pick { option } => {
            let there = open.as_ref().is_some_and(|(_, _, ask)| ask.reader.pick(option).is_some());
            if !there {
                return Err(Refusal::NoOption(option.chars().take(40).collect()));
            }
        }
        InputBody::Skip if open.as_ref().is_none_or(|(_, _, ask)| ask.skip.is_none()) => return Err(Refusal::NoSkip),
        _ => {}
    }
    let today = env.now.to_zoned(plan.zone.clone()).date();
    let mut run = Run { plan, state, events: Vec::with_capacity(8), today };
    run.emit(Event::Taken { input: input.id.clone(), at: env.now });
    match (&input.body, open) {
        (InputBody::Start, _) => run.start(env),
        (InputBody::Reply { text }, Some((index, node, ask))) => run.reply(index, node, ask, text),
        (InputBody::Pick { option }, Some((index, node, ask))) => run.pick(index, node, ask, option),
        (InputBody::Skip, Some((_, node, ask))) => {
            let label = ask.skip.as_ref().map(|skip| run.render(skip)).unwrap_or_default();
            run.emit(Event::Replied { turn: node.id.clone(), text: label, picked: true });
            run.leave(node, ask, WhyOut::Skipped);
        }
        (_, None) => run.fall_back("the open question is not in this release any more"),
    }
    Ok(Step::Events(run.events))
}

/// Where a rehearsal begins, beside the start.
#[derive(Debug, Clone, Default)]
pub struct Beginning {
    /// The turn to begin at; the start where absent.
    pub turn: Option<String>,
    /// Answers taken as given before, by field id.
    pub assumed: Vec<(String, Value)>,
}

/// Begins a rehearsal at a turn, with answers taken as given before. Never used with prospects: an input's `Start` begins
/// their conversation.
///
/// # Errors
/// [`Refusal::Start`] where it has begun already.
pub fn begin(plan: &Plan, state: &mut State, beginning: &Beginning, env: Env<'_>) -> Result<Vec<Event>, Refusal> {
    if state.started {
        return Err(Refusal::Start);
    }
    let today = env.now.to_zoned(plan.zone.clone()).date();
    let mut run = Run { plan, state, events: Vec::with_capacity(8), today };
    run.emit(Event::Taken { input: "begin".into(), at: env.now });
    run.emit(Event::Started { language: plan.language.clone(), seed: env.seed, context: env.context.clone().bounded() });
    for (id, value) in &beginning.assumed {
        let Some(field) = plan.field(id) else { continue };
        let before = run.state.points;
        let after = run.points_with(field, Some(value));
        let shown = shown(field, value, &plan.language, &plan.file.language);
        run.emit(Event::Assumed { field: id.clone(), value: value.clone(), shown, before, after });
    }
    let first = if plan.sections.is_empty() { Next::Nowhere } else { Next::GoTo(0) };
    let turn = beginning.turn.as_deref().and_then(|id| plan.turn(id));
    run.go_on(turn.map_or(first, |(index, _)| Next::Turn(index)));
    Ok(run.events)
}

/// The open question's turn.
pub(super) fn open_ask<'a>(plan: &'a Plan, state: &State) -> Option<(usize, &'a Node, &'a AskNode)> {
    let Asking { turn, .. } = state.asking.as_ref()?;
    let (index, node) = plan.turn(turn)?;
    match &node.kind {
        Kind::Ask(ask) => Some((index, node, ask)),
        _ => None,
    }
}

struct Run<'a> {
    plan: &'a Plan,
    state: &'a mut State,
    events: Vec<Event>,
    today: Date,
}

/// What formulas and conditions see of a running conversation.
#[derive(Debug, Clone, Copy)]
pub struct Known<'a> {
    /// The outline.
    pub plan: &'a Plan,
    /// The conversation.
    pub state: &'a State,
    /// The day of TODAY.
    pub today: Date,
    /// A value not kept yet, by field id.
    pub with: Option<(&'a str, &'a Value)>,
}

impl Lookup for Known<'_> {
    fn value(&self, key: &str) -> Option<&Value> {
        let id = &self.plan.field_by_key(key)?.id;
        match self.with {
            Some((field, value)) if field == id => Some(value),
            _ => self.state.values.get(id).map(|held| &held.value),
        }
    }
    fn today(&self) -> Option<Date> {
        Some(self.today)
    }
    fn currency(&self) -> &str {
        &self.plan.file.settings.currency
    }
}

impl<'a> Run<'a> {
    fn emit(&mut self, event: Event) {
        self.state.apply(&event);
        self.events.push(event);
    }

    fn with_facts<T>(&self, with: Option<(&str, &Value)>, decide: impl FnOnce(Facts<'_>) -> T) -> T {
        let known = Known { plan: self.plan, state: self.state, today: self.today, with };
        let score = Some(self.state.points);
        decide(Facts { lookup: &known, score, band: self.state.band.as_deref(), context: &self.state.context })
    }

    /// Points once a field has a value, or with what is known where it has none. The score is looked at again only where it
    /// reads the field.
    fn points_with(&self, field: &crate::file::Field, value: Option<&Value>) -> i64 {
        match self.plan.cards.first() {
            Some(card) if card.reads(&field.key) => self.with_facts(value.map(|value| (field.id.as_str(), value)), |facts| card.total(facts)),
            _ => self.state.points,
        }
    }

    fn start(&mut self, env: Env<'_>) {
        self.emit(Event::Started { language: self.plan.language.clone(), seed: env.seed, context: env.context.clone().bounded() });
        let first = if self.plan.sections.is_empty() { Next::Nowhere } else { Next::GoTo(0) };
        self.go_on(first);
    }

    fn pick(&mut self, index: usize, node: &'a Node, ask: &'a AskNode, option: &str) {
        let label = ask.reader.options().find(|(key, _)| *key == option).map_or(option, |(_, label)| label).to_owned();
        self.emit(Event::Replied { turn: node.id.clone(), text: label, picked: true });
        if let Some(value) = ask.reader.pick(option) {
            self.keep(index, node, ask, value, None);
        }
    }

    fn reply(&mut self, index: usize, node: &'a Node, ask: &'a AskNode, text: &str) {
        // U+0000 cannot be kept everywhere an event goes; its stand-in can.
        let text = &*text.replace('\0', "\u{fffd}");
        self.emit(Event::Replied { turn: node.id.clone(), text: text.to_owned(), picked: false });
        let field = &self.plan.file.fields[ask.field];
        if ask.skip.is_some() && ask.reader.is_skip(text) {
            return self.leave(node, ask, WhyOut::Skipped);
        }
        let tried = self.state.asking.as_ref().map_or(0, |asking| asking.tries);
        let country = self.state.context.country.as_deref().unwrap_or(&self.plan.file.settings.country).to_owned();
        let earlier = self.state.refused.get(&field.id).cloned();
        let context = ReadContext { country: Some(&country), today: Some(self.today), earlier: earlier.as_ref(), known: None };
        match ask.reader.read(text, context, tried) {
            Reading::Value { value, heard } => self.keep(index, node, ask, value, Some(heard)),
            Reading::Declined => self.leave(node, ask, WhyOut::Declined),
            Reading::Tie(options) => {
                let message = ask.reader.tie_question(&options);
                self.emit(Event::Tied { turn: node.id.clone(), options, message });
                let extras = self.state.asking.as_ref().map_or(0, |asking| asking.extras);
                if extras >= self.plan.file.settings.extras_per_ask.clamp(1, 50) {
                    self.leave(node, ask, WhyOut::Extras);
                }
            }
            Reading::Failed { failed, message, heard, refused } => {
                let attempt = tried.saturating_add(1);
                let failed = failed.into_iter().map(str::to_owned).collect();
                self.emit(Event::NotKept { turn: node.id.clone(), field: field.id.clone(), failed, message, heard, refused, attempt, of: ask.tries });
                if attempt >= ask.tries {
                    self.leave(node, ask, WhyOut::Tries);
                }
            }
        }
    }

    fn keep(&mut self, index: usize, node: &'a Node, ask: &'a AskNode, value: Value, heard: Option<Heard>) {
        let field = &self.plan.file.fields[ask.field];
        let before = self.state.points;
        let after = self.points_with(field, Some(&value));
        let shown = shown(field, &value, &self.plan.language, &self.plan.file.language);
        self.emit(Event::Kept { turn: node.id.clone(), field: field.id.clone(), value, shown, heard, before, after });
        let next = self.answer_arm(index, node, ask);
        self.go_on(next);
    }

    /// The arm of an answer that is kept: the first that fits, else what follows the ask.
    fn answer_arm(&mut self, index: usize, node: &Node, ask: &AskNode) -> Next {
        let value = self.state.values.get(&self.plan.file.fields[ask.field].id).map(|held| &held.value);
        let key: Option<Cow<'_, str>> = match value {
            Some(Value::Choice { key }) => Some(Cow::Borrowed(key)),
            Some(Value::YesNo { yes }) => Some(Cow::Borrowed(if *yes { "yes" } else { "no" })),
            _ => None,
        };
        let taken = node.arms.iter().position(|arm| match &arm.when {
            ReadyWhen::Options(options) => key.as_ref().is_some_and(|key| options.iter().any(|option| option == key)),
            ReadyWhen::Holds(condition) => self.with_facts(None, |facts| condition.decide(facts).holds()),
            ReadyWhen::Otherwise => true,
            _ => false,
        });
        self.take(index, taken)
    }

    /// Records an arm and gives its first turn; without an arm, what follows the turn.
    fn take(&mut self, index: usize, taken: Option<usize>) -> Next {
        let node = &self.plan.turns[index];
        let Some(arm) = taken.and_then(|arm| node.arms.get(arm)) else { return node.next };
        let low_end = match &arm.when {
            ReadyWhen::Holds(condition) => self.with_facts(None, |facts| span_decides(condition, facts)),
            _ => false,
        };
        self.emit(Event::Took { turn: node.id.clone(), arm: arm.id.clone(), because: arm.words.clone(), low_end });
        arm.entry
    }

    /// Leaves an ask without an answer: no option arm runs.
    fn leave(&mut self, node: &'a Node, ask: &'a AskNode, why: WhyOut) {
        let missing = match why {
            WhyOut::Declined => Missing::Declined,
            WhyOut::Skipped => Missing::Skipped,
            WhyOut::Tries | WhyOut::Extras => Missing::NotReadable,
        };
        self.emit(Event::LeftOpen { turn: node.id.clone(), field: self.plan.file.fields[ask.field].id.clone(), why, missing });
        // With a skip on offer, declining is skipping; both simply go on.
        let skips = why == WhyOut::Skipped || why == WhyOut::Declined && ask.skip.is_some();
        let next = match ask.way_out {
            _ if skips => node.next,
            ReadyWayOut::GoOn => node.next,
            ReadyWayOut::Go(next) => next,
            ReadyWayOut::Arm(arm) => match self.plan.turn(&node.id) {
                Some((index, _)) => self.take(index, Some(arm)),
                None => node.next,
            },
        };
        self.go_on(next);
    }

    /// Runs on until a question is open or the conversation has ended. Loops pass through section entries, which are
    /// bounded, so this ends.
    fn go_on(&mut self, from: Next) {
        let mut next = from;
        loop {
            next = match next {
                Next::Nowhere => return self.fall_back("there is nothing to go to"),
                Next::Close(ending) => {
                    let ending = &self.plan.endings[ending];
                    let lines = ending.say.as_ref().map(|say| Line::Text { text: self.render(say) }).into_iter().collect();
                    return self.emit(Event::Closed { turn: None, outcome: ending.outcome.clone(), lines });
                }
                Next::GoTo(section) => {
                    if !self.state.visits.is_empty() {
                        self.emit(Event::LeftVisits);
                    }
                    match self.enter(section) {
                        Some(next) => next,
                        None => return,
                    }
                }
                Next::EndOf(section) => match self.end_of(section) {
                    Some(next) => next,
                    None => return,
                },
                Next::Turn(index) => match self.turn(index) {
                    Some(next) => next,
                    None => return,
                },
            };
        }
    }

    /// Enters a section, at most so many times in a conversation.
    fn enter(&mut self, section: usize) -> Option<Next> {
        let node = &self.plan.sections[section];
        let times = self.state.entered.get(&node.id).copied().unwrap_or(0);
        if times >= self.plan.file.settings.entries_per_section.clamp(1, 1_000) {
            self.fall_back(&format!("the section “{}” was entered {times} times", node.title));
            return None;
        }
        self.emit(Event::Entered { section: node.id.clone() });
        Some(node.entry)
    }

    fn end_of(&mut self, section: usize) -> Option<Next> {
        let follow = self.plan.sections[section].follow;
        // A visited section comes back at its end, however it is written to go on by itself; a go-to or a close is a
        // choice the author made, so it counts.
        if let (ReadyFollow::CarryOn(_) | ReadyFollow::Return, Some(visit)) = (follow, self.state.visits.last().cloned()) {
            self.emit(Event::Returned { turn: visit.clone() });
            return Some(self.plan.turn(&visit).map_or(Next::Nowhere, |(_, node)| node.next));
        }
        match follow {
            ReadyFollow::CarryOn(Some(after)) => self.enter(after),
            ReadyFollow::CarryOn(None) => {
                self.fall_back("the last section ends without a Close");
                None
            }
            ReadyFollow::Return => {
                self.fall_back("a section returns, and no Visit led to it");
                None
            }
            ReadyFollow::Go(next) => Some(next),
        }
    }

    /// Runs one turn; nothing where a question is open or the end is reached.
    fn turn(&mut self, index: usize) -> Option<Next> {
        let plan = self.plan;
        let node = &plan.turns[index];
        match &node.kind {
            Kind::Tell(parts) => {
                let lines = parts.iter().map(|part| self.part(&node.id, part)).collect();
                self.emit(Event::Said { turn: node.id.clone(), lines });
                Some(node.next)
            }
            Kind::Ask(ask) => {
                let field = &plan.file.fields[ask.field];
                if ask.if_known != IfKnown::Ask && self.state.values.contains_key(&field.id) {
                    self.emit(Event::KnownAlready { turn: node.id.clone(), field: field.id.clone() });
                    return Some(self.answer_arm(index, node, ask));
                }
                let text = self.wording(&node.id, &ask.say);
                self.emit(Event::Asked { turn: node.id.clone(), text });
                None
            }
            Kind::Fork => {
                let taken = node.arms.iter().position(|arm| match &arm.when {
                    ReadyWhen::Holds(condition) => self.with_facts(None, |facts| condition.decide(facts).holds()),
                    ReadyWhen::Otherwise => true,
                    _ => false,
                });
                Some(self.take(index, taken))
            }
            Kind::WorkOut(fills) => {
                for (field, formula) in fills {
                    self.work_out(&node.id, *field, formula);
                }
                Some(node.next)
            }
            Kind::FileLead(card) => Some(self.file_lead(index, *card)),
            Kind::Visit(section) => {
                if self.state.visits.len() >= VISIT_LIMIT || self.state.visits.contains(&node.id) {
                    self.fall_back("visits nest in a circle");
                    return None;
                }
                self.emit(Event::Visited { turn: node.id.clone() });
                self.enter(*section)
            }
            Kind::Close { outcome, say, link } => {
                let mut lines = Vec::new();
                lines.extend(say.as_ref().map(|say| Line::Text { text: self.wording(&node.id, say) }));
                lines.extend(link.as_ref().map(|(label, url)| Line::Link { label: self.render(label), url: url.clone() }));
                self.emit(Event::Closed { turn: Some(node.id.clone()), outcome: outcome.clone(), lines });
                None
            }
            Kind::Broken(says) => {
                self.fall_back(says);
                None
            }
        }
    }

    fn work_out(&mut self, turn: &str, field: usize, formula: &crate::formula::Formula) {
        let field = &self.plan.file.fields[field];
        let known = Known { plan: self.plan, state: self.state, today: self.today, with: None };
        let (value, words) = match formula.run(&known) {
            Ok(Some(value)) => {
                // A text that equals an option's key fills a choice; a formula knows only texts.
                let value = match (&value, field.kind) {
                    (Value::Text { text }, crate::file::FieldType::Choice) => Value::choice(text.clone()),
                    _ => value,
                };
                let words = shown(field, &value, &self.plan.language, &self.plan.file.language);
                (Some(value), words)
            }
            Ok(None) => (None, "missing: something it needs is missing".to_owned()),
            Err(error) => (None, format!("missing: {error}")),
        };
        let before = self.state.points;
        let after = match &value {
            Some(value) => self.points_with(field, Some(value)),
            None => {
                self.state.values.remove(&field.id);
                self.points_with(field, None)
            }
        };
        self.emit(Event::WorkedOut { turn: turn.to_owned(), field: field.id.clone(), value, shown: words, before, after });
    }

    fn file_lead(&mut self, index: usize, card: Option<usize>) -> Next {
        let plan = self.plan;
        let node = &plan.turns[index];
        let score = card.and_then(|card| plan.cards.get(card)).map(|card| self.with_facts(None, |facts| card.score(facts, &plan.language)));
        let band = score.as_ref().and_then(|score| score.band.clone());
        let ruled_out = score.as_ref().is_some_and(|score| !score.rule_outs.is_empty());
        let total = score.as_ref().map(|score| score.total);
        let decision = {
            let known = Known { plan, state: self.state, today: self.today, with: None };
            plan.routes.decide(Facts { lookup: &known, score: total, band: band.as_deref(), context: &self.state.context })
        };
        let filing = self.state.filings.saturating_add(1);
        self.emit(Event::Filed { turn: node.id.clone(), filing, score, decision });
        let taken = node.arms.iter().position(|arm| match &arm.when {
            ReadyWhen::Band(bands) => band.as_ref().is_some_and(|band| bands.contains(band)),
            ReadyWhen::RuledOut => ruled_out,
            ReadyWhen::Holds(condition) => self.with_facts(None, |facts| condition.decide(facts).holds()),
            ReadyWhen::Otherwise => true,
            _ => false,
        });
        self.take(index, taken)
    }

    fn fall_back(&mut self, why: &str) {
        let message = self.plan.phrases.get("fallback").to_owned();
        self.emit(Event::FellBack { why: why.to_owned(), message });
    }

    fn part(&self, turn: &str, part: &ReadyPart) -> Line {
        match part {
            ReadyPart::Line(wordings) => Line::Text { text: self.wording(turn, wordings) },
            ReadyPart::Picture(media, alt) => Line::Picture { media: media.clone(), alt: self.render(alt) },
            ReadyPart::Document(media, label) => Line::Document { media: media.clone(), label: self.render(label) },
            ReadyPart::Link(label, url) => Line::Link { label: self.render(label), url: url.clone() },
            ReadyPart::Beside(parts) => Line::Beside { lines: parts.iter().map(|part| self.part(turn, part)).collect() },
        }
    }

    /// One of the wordings, by the conversation's seed and the turn.
    fn wording(&self, turn: &str, wordings: &[Vec<Piece>]) -> String {
        let pick = match wordings.len() {
            0 | 1 => 0,
            count => {
                // FNV-1a over the seed and the turn: stable across versions and platforms, unlike the standard hasher.
                let bytes = self.state.seed.to_le_bytes();
                let hash =
                    bytes.iter().chain(turn.as_bytes()).fold(0xcbf2_9ce4_8422_2325_u64, |hash, byte| (hash ^ u64::from(*byte)).wrapping_mul(0x0100_0000_01b3));
                usize::try_from(hash % count as u64).unwrap_or(0)
            }
        };
        wordings.get(pick).map(|pieces| self.render(pieces)).unwrap_or_default()
    }

    fn render(&self, pieces: &[Piece]) -> String {
        let mut out = String::new();
        for piece in pieces {
            match piece {
                Piece::Words(words) => out.push_str(words),
                Piece::Chip(chip) => out.push_str(&self.chip(chip)),
            }
        }
        out
    }

    fn chip(&self, chip: &Chip) -> String {
        let fallback = || chip.fallback.clone().unwrap_or_default();
        let Some(field) = self.plan.field_by_key(&chip.field) else { return fallback() };
        let Some(held) = self.state.values.get(&field.id) else { return fallback() };
        if !chip.forms.is_empty() {
            let key = match &held.value {
                Value::Choice { key } => key.clone(),
                other => other.to_string(),
            };
            return chip.forms.iter().find(|(value, _)| value.eq_ignore_ascii_case(&key)).map_or_else(fallback, |(_, word)| word.clone());
        }
        match &chip.part {
            Some(part) => field::part(&held.value, part).unwrap_or_else(fallback),
            None => shown(field, &held.value, &self.plan.language, &self.plan.file.language),
        }
    }
}
