//! The engine. One input in, events out; between two inputs it always stands at an open question or at the end.

use std::borrow::Cow;
use std::ops::Range;

use jiff::civil::Date;
use jiff::{SignedDuration, Timestamp};

use super::unfinished::{self, unfinished_limit};
use super::{
    Asking, Came, CardPoints, Effect, Env, Event, FORM_LIMIT, Input, InputBody, Known, Line, ProspectInput,
    REPLY_INPUT_LIMIT, Stage, State, SystemInput, Timer, WhyOut, owner_limit,
};
use crate::plan::Plan;
use crate::plan::{AskNode, Kind, Next, Node, ReadBackNode, ReadyFollow, ReadyWhen};
use crate::turns;
use lumbo_condition::{Facts, span_decides};
use lumbo_reading::domains::DomainLists;
use lumbo_reading::{Reader, shown};
use lumbo_value::Value;
use lumbo_value::text::Piece;

/// Most values taken from a signed-in visitor or a channel.
const PREFILL_LIMIT: usize = 20;
/// Most inputs in one conversation.
pub const INPUT_LIMIT: u32 = 1_000;

/// What an input came to.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Step {
    /// It was taken.
    Took {
        /// New events, folded into the state already.
        events: Vec<Event>,
        /// What must follow outside the conversation; the shell writes it down in the transaction that keeps the
        /// events.
        effects: Vec<Effect>,
    },
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
    /// No form is open.
    #[error("there is no form to send now")]
    NoForm,
    /// There is no such answer to change.
    #[error("there is no answer there to change")]
    NoAnswer,
    /// Too many inputs.
    #[error("a conversation takes at most {INPUT_LIMIT} inputs")]
    TooMany,
    /// An input's id that is none.
    #[error("an input’s id has 1 to 64 letters, digits, dots, hyphens and underscores")]
    Id,
    /// A reply too long.
    #[error("a reply has at most {REPLY_INPUT_LIMIT} bytes")]
    TooLong,
    /// Too little time has passed in silence.
    #[error("it has not been quiet for long enough")]
    TooSoon,
    /// What was said makes no lead.
    #[error("nobody can be reached by what was said, or it was passed on already")]
    NoLead,
}

/// Takes one input.
///
/// # Errors
/// A [`Refusal`]; the state is then unchanged.
pub fn step(plan: &Plan, state: &mut State, input: &Input, env: Env<'_>) -> Result<Step, Refusal> {
    if !input.has_good_id() {
        return Err(Refusal::Id);
    }
    if let Some(index) = state.inputs.iter().rposition(|taken| taken.id == input.id) {
        let first = state.inputs[index].first;
        let end = state.inputs.get(index + 1).map_or(state.events, |next| next.first);
        return Ok(Step::Repeated(first..end));
    }
    if input.expects != state.sequence() {
        return Err(Refusal::Sequence { expected: state.sequence(), found: input.expects });
    }
    // What was said can be corrected after the end; nothing else can happen then.
    let revises = matches!(input.body, InputBody::Prospect(ProspectInput::Revise { .. }))
        && state.closed.as_ref().is_some_and(|outcome| !outcome.is_empty());
    if state.closed.is_some() && !revises {
        return Err(Refusal::Ended);
    }
    let ends = matches!(input.body, InputBody::System(_) | InputBody::Prospect(ProspectInput::Leave {}));
    if state.sequence() >= INPUT_LIMIT && !ends {
        return Err(Refusal::TooMany);
    }
    if state.started == matches!(input.body, InputBody::Prospect(ProspectInput::Start {})) {
        return Err(Refusal::Start);
    }
    match &input.body {
        InputBody::Prospect(body) => refuse(plan, state, body)?,
        InputBody::System(_) => {}
    }
    let unheard = match &input.body {
        InputBody::Prospect(body) => *body == ProspectInput::Nudge {},
        InputBody::System(_) => true,
    };
    if unheard && !was_quiet(plan, state, &input.body, env.now) {
        return Err(Refusal::TooSoon);
    }
    if matches!(input.body, InputBody::System(SystemInput::Unfinished)) && !unfinished::makes_a_lead(plan, state) {
        return Err(Refusal::NoLead);
    }
    let was_open = state.started && state.closed.is_none();
    let mut run = Run::new(plan, state, &env);
    run.emit(Event::Taken { input: input.id.clone(), at: env.now, unheard });
    match &input.body {
        InputBody::Prospect(body) => match body {
            ProspectInput::Start {} => run.start(env),
            ProspectInput::Reply { text } => run.reply(text),
            ProspectInput::Pick { option } => run.pick(option),
            ProspectInput::PickSeveral { options } => run.pick_several(options),
            ProspectInput::Skip {} => run.skip(),
            ProspectInput::Form { values } => run.form(values),
            ProspectInput::Revise { turn, text, picked } => run.revise(turn, text, *picked),
            ProspectInput::Back {} => run.back(),
            ProspectInput::Nudge {} => run.nudge(),
            ProspectInput::Leave {} => run.emit(Event::Left),
        },
        InputBody::System(SystemInput::Silence) => {
            if unfinished::makes_a_lead(plan, run.state) {
                run.file_unfinished();
            }
            run.fall_back("they were silent for too long");
        }
        InputBody::System(SystemInput::Unfinished) => run.file_unfinished(),
    }
    if !was_open && run.state.closed.is_none() {
        run.effects.extend(silence_limit(plan, env.now).map(|at| Effect::Wake { timer: Timer::Silence, at }));
    }
    run.watch_for_silence();
    Ok(Step::Took { events: run.events, effects: run.effects })
}

/// When silence that begins now ends the conversation; nothing where its author set no limit.
#[must_use]
pub fn silence_limit(plan: &Plan, heard_at: Timestamp) -> Option<Timestamp> {
    let minutes = plan.file.settings.idle_minutes;
    (minutes > 0).then(|| heard_at.checked_add(SignedDuration::from_mins(minutes.into())).ok()).flatten()
}

/// True where the prospect was quiet for as long as the input says.
fn was_quiet(plan: &Plan, state: &State, body: &InputBody, now: Timestamp) -> bool {
    let Some(heard_at) = state.heard_at else { return false };
    match body {
        InputBody::Prospect(_) => {
            let seconds = plan.file.settings.nudge_seconds;
            seconds > 0 && !state.nudged && now.duration_since(heard_at) >= SignedDuration::from_secs(seconds.into())
        }
        InputBody::System(SystemInput::Silence) => silence_limit(plan, heard_at).is_some_and(|limit| now >= limit),
        InputBody::System(SystemInput::Unfinished) => {
            unfinished_limit(plan, heard_at).is_some_and(|limit| now >= limit)
        }
    }
}

/// Refuses an input that does not fit what is open.
fn refuse(plan: &Plan, state: &State, body: &ProspectInput) -> Result<(), Refusal> {
    let stage = state.asking.as_ref().map(|asking| &asking.stage);
    let none = |option: &str| Err(Refusal::NoOption(option.chars().take(40).collect()));
    match body {
        ProspectInput::Reply { text } | ProspectInput::Revise { text, .. } if text.len() > REPLY_INPUT_LIMIT => {
            Err(Refusal::TooLong)
        }
        ProspectInput::Pick { option } => {
            let there = match stage {
                Some(Stage::Confirm) => matches!(option.as_str(), "yes" | "no"),
                Some(Stage::ReadBack) => {
                    option == ALL_RIGHT
                        || open_read_back(plan, state).is_some_and(|(_, _, back)| {
                            // What is worked out follows from the rest: no reply changes it.
                            let changes = |field: &usize| !plan.worked_out[*field];
                            back.fields
                                .iter()
                                .filter(|field| changes(field))
                                .any(|field| plan.file.fields[*field].key == *option)
                        })
                }
                _ => open_one(plan, state).is_some_and(|one| one.reader.pick(option).is_some()),
            };
            if there { Ok(()) } else { none(option) }
        }
        ProspectInput::PickSeveral { options } => match open_one(plan, state) {
            Some(one) if one.reader.pick_several(options).is_some() => Ok(()),
            _ => none(options.first().map_or("", String::as_str)),
        },
        ProspectInput::Skip {} if open_one(plan, state).is_none_or(|one| one.skip.is_none()) => Err(Refusal::NoSkip),
        ProspectInput::Form { values } => {
            let (count, bytes) = FORM_LIMIT;
            if values.len() > count || values.values().any(|text| text.len() > bytes) {
                return Err(Refusal::TooLong);
            }
            if matches!(stage, Some(Stage::Form(_))) { Ok(()) } else { Err(Refusal::NoForm) }
        }
        ProspectInput::Revise { turn, .. }
            if !state.answers.iter().any(|answer| answer.turn == *turn && answer.came != Came::Passed) =>
        {
            Err(Refusal::NoAnswer)
        }
        ProspectInput::Back {} if state.answers.is_empty() => Err(Refusal::NoAnswer),
        _ => Ok(()),
    }
}

/// Where a rehearsal begins, beside the start.
#[derive(Debug, Clone, Default)]
pub struct Beginning {
    /// The turn to begin at; the start where absent.
    pub turn: Option<String>,
    /// Answers taken as given before, by field id.
    pub assumed: Vec<(String, Value)>,
}

/// Begins a rehearsal at a turn, with answers taken as given before. Never used with prospects: an input's `Start`
/// begins their conversation.
///
/// # Errors
/// [`Refusal::Start`] where it has begun already.
pub fn begin(plan: &Plan, state: &mut State, beginning: &Beginning, env: Env<'_>) -> Result<Vec<Event>, Refusal> {
    if state.started {
        return Err(Refusal::Start);
    }
    let today = plan.zone.to_datetime(env.now).date();
    let mut run = Run {
        plan,
        state,
        events: Vec::with_capacity(8),
        effects: Vec::new(),
        today,
        now: env.now,
        domains: env.domains,
        at: None,
    };
    run.emit(Event::Taken { input: "begin".into(), at: env.now, unheard: false });
    run.started(env);
    for (id, value) in &beginning.assumed {
        let Some(field) = plan.field(id) else { continue };
        let before = run.state.points;
        let after = run.points_with(field, Some(value));
        let shown = shown(field, value, &plan.language, &plan.file.language);
        let others = run.others_with(field, Some(value));
        run.emit(Event::Assumed { field: id.clone(), value: value.clone(), shown, before, after, others });
    }
    let first = if plan.sections.is_empty() { Next::Nowhere } else { Next::GoTo(0) };
    let turn = beginning.turn.as_deref().and_then(|id| plan.turn(id));
    run.go_on(turn.map_or(first, |(index, _)| Next::Turn(index)));
    Ok(run.events)
}

/// Key by which a prospect says at a Read back that all is right.
pub const ALL_RIGHT: &str = "all_right";

/// One open question about one field: an Ask's own, one of an Open ask, or the one that is changed at a Read back.
#[derive(Clone, Copy)]
pub(crate) struct One<'a> {
    /// The open turn.
    pub index: usize,
    pub node: &'a Node,
    /// The field's index.
    pub field: usize,
    pub reader: &'a Reader,
    /// The field's own Ask, where the outline has one: its words, its why-line.
    pub ask: Option<&'a AskNode>,
    pub tries: u8,
    pub skip: Option<&'a Vec<Piece>>,
    /// True for the Ask itself, whose arms run.
    pub own: bool,
}

impl<'a> One<'a> {
    /// The question of an Ask itself.
    pub(crate) fn of(index: usize, node: &'a Node, ask: &'a AskNode) -> Self {
        let (reader, skip) = (&ask.reader, ask.skip.as_ref());
        Self { index, node, field: ask.field, reader, ask: Some(ask), tries: ask.tries, skip, own: true }
    }
}

/// The open question about one field.
pub(crate) fn open_one<'a>(plan: &'a Plan, state: &State) -> Option<One<'a>> {
    let Asking { turn, stage, .. } = state.asking.as_ref()?;
    let (index, node) = plan.turn(turn)?;
    match (&node.kind, stage) {
        (Kind::Ask(ask), Stage::Ask | Stage::Confirm) => Some(One::of(index, node, ask)),
        (_, Stage::Field(id)) => {
            let field = plan.file.fields.iter().position(|field| field.id == *id)?;
            let reader = plan.readers.get(field)?.as_ref()?;
            let ask = plan
                .asked_by
                .get(field)
                .copied()
                .flatten()
                .and_then(|index| if let Kind::Ask(ask) = &plan.turns[index].kind { Some(&**ask) } else { None });
            Some(One {
                index,
                node,
                field,
                reader,
                ask,
                tries: ask.map_or(3, |ask| ask.tries),
                skip: ask.and_then(|ask| ask.skip.as_ref()),
                own: false,
            })
        }
        _ => None,
    }
}

/// The open Read back.
pub(crate) fn open_read_back<'a>(plan: &'a Plan, state: &State) -> Option<(usize, &'a Node, &'a ReadBackNode)> {
    let (index, node) = plan.turn(&state.asking.as_ref()?.turn)?;
    match &node.kind {
        Kind::ReadBack(back) => Some((index, node, back)),
        _ => None,
    }
}

/// One input being taken. Its parts: `answer` (one question), `several` (forms, open questions, Read back), `side`
/// (control words, side-talk, offers), `replay` (changes of earlier answers), `say` (words).
pub(crate) struct Run<'a> {
    pub plan: &'a Plan,
    pub state: &'a mut State,
    pub events: Vec<Event>,
    pub effects: Vec<Effect>,
    pub today: Date,
    pub now: Timestamp,
    pub domains: &'a DomainLists,
    /// The turn whose arms are decided.
    pub at: Option<usize>,
}

/// When the owner of a lead that is filed early is chosen: after a silence, at once where the conversation has ended.
fn owner_due(state: &State, event: &Event, now: Timestamp) -> Option<Effect> {
    let at = match event {
        Event::Filed { early: true, .. } => owner_limit(now),
        Event::Closed { .. } | Event::Left | Event::FellBack { .. } if state.early => now,
        _ => return None,
    };
    Some(Effect::Wake { timer: Timer::Owner, at })
}

impl<'a> Run<'a> {
    pub(super) fn new(plan: &'a Plan, state: &'a mut State, env: &Env<'a>) -> Self {
        Self {
            plan,
            state,
            events: Vec::with_capacity(8),
            effects: Vec::new(),
            today: plan.zone.to_datetime(env.now).date(),
            now: env.now,
            domains: env.domains,
            at: None,
        }
    }

    pub(crate) fn emit(&mut self, event: Event) {
        self.state.apply(&event);
        if let Event::Filed { filing, score, decision, unfinished, early, .. } = &event {
            self.effects.push(Effect::File {
                filing: *filing,
                score: score.clone(),
                decision: decision.clone(),
                unfinished: *unfinished,
                early: *early,
            });
        }
        self.effects.extend(owner_due(self.state, &event, self.now));
        if let Event::Closed { outcome, .. } = &event {
            let ended = self.plan.file.outcomes.iter().find(|known| known.id == *outcome);
            if ended.is_some_and(|outcome| outcome.request.is_some()) {
                self.effects.push(Effect::Request { outcome: outcome.clone() });
            }
            if let Some(tags) = ended.map(|outcome| &outcome.tags).filter(|tags| !tags.is_empty())
                && self.state.filings > 0
            {
                self.effects.push(Effect::Tag { tags: tags.clone() });
            }
        }
        self.events.push(event);
    }

    /// What formulas, conditions and readers see now.
    pub(crate) fn known<'b>(&'b self, with: Option<(&'b str, &'b Value)>) -> Known<'b> {
        Known {
            plan: self.plan,
            state: self.state,
            today: self.today,
            now: self.now,
            domains: self.domains,
            at: self.at,
            with,
        }
    }

    pub(crate) fn with_facts<T>(&self, with: Option<(&str, &Value)>, decide: impl FnOnce(Facts<'_>) -> T) -> T {
        let known = self.known(with);
        decide(Facts { lookup: &known, scores: &known, around: known.around() })
    }

    /// Points once a field has a value, or with what is known where it has none. The score is looked at again only
    /// where it reads the field.
    pub(crate) fn points_with(&self, field: &crate::file::Field, value: Option<&Value>) -> i64 {
        match self.plan.default_card.map(|card| &self.plan.cards[card]) {
            Some(card) if card.reads(&field.key) => {
                self.with_facts(value.map(|value| (field.id.as_str(), value)), |facts| card.total(facts))
            }
            _ => self.state.points,
        }
    }

    /// Points by the scorecards that are not the default, where they read the field; most dialogues have none.
    pub(crate) fn others_with(&self, field: &crate::file::Field, value: Option<&Value>) -> Vec<CardPoints> {
        if self.plan.cards.len() < 2 {
            return Vec::new();
        }
        let others = self
            .plan
            .cards
            .iter()
            .enumerate()
            .filter(|(place, card)| Some(*place) != self.plan.default_card && card.reads(&field.key));
        others
            .map(|(_, card)| CardPoints {
                card: card.file.id.clone(),
                points: self.with_facts(value.map(|value| (field.id.as_str(), value)), |facts| card.total(facts)),
            })
            .collect()
    }

    /// Points by every scorecard, from nothing.
    pub(crate) fn count_points(&mut self) {
        let totals: Vec<i64> =
            self.plan.cards.iter().map(|card| self.with_facts(None, |facts| card.total(facts))).collect();
        for (place, (card, points)) in self.plan.cards.iter().zip(totals).enumerate() {
            if Some(place) == self.plan.default_card {
                self.state.points = points;
            } else {
                self.state.points_by.insert(card.file.id.clone(), points);
            }
        }
    }

    fn start(&mut self, env: Env<'_>) {
        self.started(env);
        self.go_on(self.first());
    }

    pub(super) fn started(&mut self, env: Env<'_>) {
        let context = env.context.clone().settled();
        self.state.context = context.clone();
        let (points, others) = self.points_at_first();
        self.emit(Event::Started {
            language: self.plan.language.clone(),
            seed: env.seed,
            context: Box::new(context),
            points,
            others,
        });
        for value in env.known.iter().take(PREFILL_LIMIT) {
            // What the site says wrongly is as if it had not said it.
            let _ = self.prefill(value);
        }
    }

    /// Points before anything was said, by the default scorecard and, where they give any, by the others.
    fn points_at_first(&self) -> (i64, Vec<CardPoints>) {
        let mut points = 0;
        let mut others = Vec::new();
        for (place, card) in self.plan.cards.iter().enumerate() {
            let total = self.with_facts(None, |facts| card.total(facts));
            if Some(place) == self.plan.default_card {
                points = total;
            } else if total != 0 {
                others.push(CardPoints { card: card.file.id.clone(), points: total });
            }
        }
        (points, others)
    }

    /// Where a conversation begins.
    pub(crate) fn first(&self) -> Next {
        if self.plan.sections.is_empty() { Next::Nowhere } else { Next::GoTo(0) }
    }

    /// The arm of an answer that is kept: the first that fits, else what follows the ask.
    pub(crate) fn answer_arm(&mut self, index: usize, node: &'a Node, ask: &'a AskNode) -> Next {
        let value = self.state.values.get(&self.plan.file.fields[ask.field].id).map(|held| &held.value);
        let key: Option<Cow<'_, str>> = match value {
            Some(Value::Choice { key }) => Some(Cow::Borrowed(key)),
            Some(Value::YesNo { yes } | Value::Consent { given: yes, .. }) => {
                Some(Cow::Borrowed(if *yes { "yes" } else { "no" }))
            }
            _ => None,
        };
        let refused = matches!(value, Some(Value::Consent { given: false, .. }));
        self.at = Some(index);
        let taken = node.arms.iter().position(|arm| match &arm.when {
            ReadyWhen::Options(options) => key.as_ref().is_some_and(|key| options.iter().any(|option| option == key)),
            ReadyWhen::Holds(condition) => self.with_facts(None, |facts| condition.decide(facts).holds()),
            ReadyWhen::Otherwise => true,
            _ => false,
        });
        // Where no arm says what a no still allows, it takes the way out.
        if refused && taken.is_none() {
            return self.way_out(One::of(index, node, ask), WhyOut::Declined);
        }
        self.take(index, taken)
    }

    /// Records an arm and gives its first turn; without an arm, what follows the turn.
    pub(crate) fn take(&mut self, index: usize, taken: Option<usize>) -> Next {
        let node = &self.plan.turns[index];
        let Some(arm) = taken.and_then(|arm| node.arms.get(arm)) else { return node.next };
        let low_end = match &arm.when {
            ReadyWhen::Holds(condition) => self.with_facts(None, |facts| span_decides(condition, facts)),
            _ => false,
        };
        let (turn, arm_id) = (node.id.clone(), arm.id.clone());
        self.emit(Event::Took { turn, arm: arm_id, because: arm.words.clone(), low_end, tags: arm.tags.clone() });
        arm.entry
    }

    /// Runs on until a question is open or the conversation has ended. Loops pass through section entries, which are
    /// bounded, so this ends.
    pub(crate) fn go_on(&mut self, from: Next) {
        let mut next = from;
        loop {
            next = match next {
                Next::Wait => return,
                Next::Nowhere => return self.fall_back("there is nothing to go to"),
                Next::Close(ending) => {
                    let ending = &self.plan.endings[ending];
                    let lines =
                        ending.say.as_ref().map(|say| Line::Text { text: self.render(say) }).into_iter().collect();
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
    pub(crate) fn enter(&mut self, section: usize) -> Option<Next> {
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
        if let (ReadyFollow::CarryOn(_) | ReadyFollow::Return, Some(visit)) =
            (follow, self.state.visits.last().cloned())
        {
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
        self.at = Some(index);
        match &node.kind {
            Kind::Tell(parts) => turns::tell::run(self, node, parts),
            Kind::Ask(ask) => turns::ask::run(self, index, node, ask),
            Kind::AskTogether(form) => turns::ask_together::run(self, node, form),
            Kind::OpenAsk(open) => turns::open_ask::run(self, node, open),
            Kind::ReadBack(back) => turns::read_back::run(self, node, back),
            Kind::Fork => turns::fork::run(self, index, node),
            Kind::WorkOut(fills) => turns::work_out::run(self, node, fills),
            Kind::FileLead(filing) => turns::file_lead::run(self, index, node, *filing),
            Kind::Visit(section) => turns::visit::run(self, node, *section),
            Kind::Close(close) => turns::close::run(self, node, close),
            Kind::Broken(says) => {
                self.fall_back(says);
                None
            }
        }
    }

    pub(crate) fn fall_back(&mut self, why: &str) {
        let message = self.plan.phrases.get("fallback").to_owned();
        self.emit(Event::FellBack { why: why.to_owned(), message });
    }
}
