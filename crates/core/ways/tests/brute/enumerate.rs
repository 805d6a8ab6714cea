//! Every conversation of a small outline, held by the engine.

use std::collections::{BTreeMap, BTreeSet, HashSet};

use lumbo_dialogue::Plan;
use lumbo_dialogue::file::FieldType;
use lumbo_dialogue::plan::Kind;
use lumbo_dialogue::talk::script::{Line, line};
use lumbo_dialogue::talk::{
    Context, Env, Event, Input, InputBody, Prefill, PrefillTo, ProspectInput, Stage, State, Step, step,
};
use lumbo_reading::domains::DomainLists;
use lumbo_value::text::Piece;

/// Most states of one outline.
const MOST_STATES: usize = 1_500;

pub fn now() -> jiff::Timestamp {
    "2026-11-23T09:00:00Z".parse().unwrap()
}

/// What came of conversations.
#[derive(Debug, Default, Clone)]
pub struct Held {
    pub turns: BTreeSet<String>,
    pub arms: BTreeSet<String>,
    pub outcomes: BTreeMap<String, (i64, i64)>,
    pub questions: BTreeMap<String, (u32, Option<u32>)>,
    pub bands: BTreeMap<String, (i64, i64)>,
    pub queues: BTreeSet<String>,
    pub gaps: BTreeSet<(String, String)>,
    pub lacks: BTreeSet<(String, String)>,
    pub unsettled: BTreeSet<(String, String)>,
}

impl Held {
    /// What this has and the other has not.
    pub fn beyond(&self, other: &Self) -> Vec<String> {
        let mut out = Vec::new();
        out.extend(self.turns.difference(&other.turns).map(|id| format!("turn {id}")));
        out.extend(self.arms.difference(&other.arms).map(|id| format!("arm {id}")));
        out.extend(self.gaps.difference(&other.gaps).map(|at| format!("gap {at:?}")));
        out.extend(self.lacks.difference(&other.lacks).map(|at| format!("lack {at:?}")));
        out.extend(self.unsettled.difference(&other.unsettled).map(|at| format!("unsettled {at:?}")));
        out.extend(self.queues.difference(&other.queues).map(|at| format!("queue {at}")));
        for (what, mine, theirs) in [("outcome", &self.outcomes, &other.outcomes), ("band", &self.bands, &other.bands)]
        {
            for (key, (low, high)) in mine {
                match theirs.get(key) {
                    Some((l, h)) if low >= l && high <= h => {}
                    found => out.push(format!("{what} {key} {low} to {high}, found {found:?}")),
                }
            }
        }
        out
    }
}

/// Every conversation; nothing where there are too many.
pub fn all(plan: &Plan) -> Option<Held> {
    let mut held = Held::default();
    let domains = DomainLists::default();
    let context = Context::default();
    let mut seen: HashSet<String> = HashSet::new();
    let mut todo: Vec<State> = Vec::new();
    let take = |state: &State, body: ProspectInput, known: &[Prefill], held: &mut Held| -> Option<State> {
        let env = Env { now: now(), seed: 0, context: &context, known, domains: &domains };
        let mut next = state.clone();
        let expects = next.sequence();
        let input = Input { id: format!("i{expects}"), expects, body: InputBody::Prospect(body) };
        let Ok(Step::Took { events, .. }) = step(plan, &mut next, &input, env) else { return None };
        watch(plan, state, &events, held);
        if let Some(outcome) = &next.closed {
            if !outcome.is_empty() {
                let bounds = held.outcomes.entry(outcome.clone()).or_insert((next.points, next.points));
                *bounds = (bounds.0.min(next.points), bounds.1.max(next.points));
            }
            return None;
        }
        Some(next)
    };
    for known in beginnings(plan) {
        todo.extend(take(&State::default(), ProspectInput::Start {}, &known, &mut held));
    }
    while let Some(state) = todo.pop() {
        for body in replies(plan, &state) {
            if let Some(mut next) = take(&state, body, &[], &mut held) {
                next.inputs.clear();
                next.events = 0;
                next.said.clear();
                let mut key = next.clone();
                key.questions = 0;
                key.side_talk = 0;
                // Which turn asked last matters only for what is left open elsewhere.
                key.answers.sort_by(|one, two| (&one.turn, &one.field).cmp(&(&two.turn, &two.field)));
                key.answers.dedup_by(|one, two| one.turn == two.turn && one.field == two.field);
                if seen.insert(serde_json::to_string(&key).unwrap()) {
                    if seen.len() > MOST_STATES {
                        return None;
                    }
                    todo.push(next);
                }
            }
        }
    }
    Some(held)
}

/// The states of one conversation, held with replies by chance; revisions are left out.
pub fn walked(plan: &Plan, seed: u64) -> Vec<State> {
    let mut chance = crate::outline::Chance(seed);
    let (context, domains) = (Context::default(), DomainLists::default());
    let env = Env { now: now(), seed: 0, context: &context, known: &[], domains: &domains };
    let mut state = State::default();
    let mut out: Vec<State> = Vec::new();
    let mut body = ProspectInput::Start {};
    for _ in 0..10 {
        let expects = state.sequence();
        let input = Input { id: format!("i{expects}"), expects, body: InputBody::Prospect(body) };
        if let Ok(Step::Took { .. }) = step(plan, &mut state, &input, env) {
            out.push(state.clone());
        }
        let all = replies(plan, &state);
        if all.is_empty() || state.closed.is_some() {
            break;
        }
        body = chance.of(&all).clone();
    }
    out
}

/// What the site may know before the first question: fields that nothing asks for or works out.
fn beginnings(plan: &Plan) -> Vec<Vec<Prefill>> {
    let mut given: BTreeSet<&str> = BTreeSet::new();
    plan.file.each_turn(&mut |_, _, turn| {
        given.extend(turn.fills());
        if turn.kind() != "read_back" {
            given.extend(turn.asks_for());
        }
    });
    let mut out: Vec<Vec<Prefill>> = vec![Vec::new()];
    for (field, definition) in
        plan.file.fields.iter().enumerate().filter(|(_, field)| !given.contains(field.key.as_str()))
    {
        let read = lumbo_dialogue::turns::uses::uses(&plan.file, &definition.key);
        if read.is_empty() {
            continue;
        }
        let texts: Vec<Option<String>> = values(plan, field).into_iter().map(Some).chain([None]).collect();
        out = out
            .into_iter()
            .flat_map(|known| {
                texts.iter().map(move |text| {
                    let mut known = known.clone();
                    known.extend(
                        text.as_ref()
                            .map(|text| Prefill { to: PrefillTo::Key(definition.key.clone()), text: text.clone() }),
                    );
                    known
                })
            })
            .collect();
    }
    out
}

/// A reply of every cell of a field.
fn values(plan: &Plan, field: usize) -> Vec<String> {
    let field = &plan.file.fields[field];
    match field.kind {
        FieldType::Choice => field.options.iter().map(|option| option.label.get("en", "en").to_owned()).collect(),
        FieldType::YesNo | FieldType::Consent => vec!["yes".into(), "no".into()],
        FieldType::WholeNumber => ["1", "4", "5", "6", "9", "10", "11", "30"].map(str::to_owned).to_vec(),
        FieldType::Text => vec!["a few things".into()],
        other => panic!("{other:?} is not made up"),
    }
}

fn chips(pieces: &[Piece]) -> impl Iterator<Item = &str> {
    pieces.iter().filter_map(|piece| match piece {
        Piece::Chip(chip) if chip.fallback.is_none() => Some(chip.field.as_str()),
        _ => None,
    })
}

/// Notes what events show, folding them once more so that each is seen with what was known at it.
fn watch(plan: &Plan, before: &State, events: &[Event], held: &mut Held) {
    let mut state = before.clone();
    for event in events {
        let missing = |key: &str, state: &State| !state.values.contains_key(&plan.field_by_key(key).unwrap().id);
        let shows = |turn: &str, state: &State, held: &mut Held| {
            let Some((_, node)) = plan.turn(turn) else { return };
            let mut at = |pieces: &[Piece]| {
                for key in chips(pieces).filter(|key| missing(key, state)) {
                    held.gaps.insert((turn.to_owned(), key.to_owned()));
                }
            };
            match &node.kind {
                Kind::Tell(parts) => parts.iter().for_each(|part| {
                    if let lumbo_dialogue::plan::ReadyPart::Line(wordings) = part {
                        wordings.iter().for_each(|pieces| at(pieces));
                    }
                }),
                Kind::Ask(ask) => ask.say.iter().for_each(|pieces| at(pieces)),
                _ => {}
            }
        };
        let quiet = |turn: &str| {
            matches!(plan.turn(turn).map(|(_, node)| &node.kind), None | Some(Kind::Fork | Kind::OpenAsk(_)))
        };
        let came = |turn: &str, held: &mut Held| {
            if !quiet(turn) {
                held.turns.insert(turn.to_owned());
            }
        };
        match event {
            Event::Said { turn, .. } | Event::Asked { turn, .. } => {
                came(turn, held);
                shows(turn, &state, held);
            }
            Event::KnownAlready { turn, .. }
            | Event::LeftOpen { turn, .. }
            | Event::WorkedOut { turn, .. }
            | Event::Visited { turn } => {
                came(turn, held);
            }
            Event::Took { turn, arm, .. } => {
                came(turn, held);
                held.arms.insert(arm.clone());
            }
            Event::Closed { turn: Some(turn), .. } => {
                came(turn, held);
            }
            Event::Filed { turn, score, decision, .. } => {
                came(turn, held);
                held.queues.insert(decision.queue.clone().unwrap_or_else(|| "none".to_owned()));
                if let Some(score) = score {
                    let key = score.band.clone().unwrap_or_else(|| "ruled_out".to_owned());
                    let bounds = held.bands.entry(key).or_insert((score.total, score.total));
                    *bounds = (bounds.0.min(score.total), bounds.1.max(score.total));
                }
                for need in &plan.file.brief.needs {
                    if need.iter().all(|key| missing(key, &state)) {
                        held.lacks.insert((turn.clone(), need.join(" ")));
                    }
                }
                let consents = plan.corrected.1.iter().map(|field| &plan.file.fields[*field]);
                for field in consents.filter(|field| field.kind == FieldType::Consent) {
                    if missing(&field.key, &state) {
                        held.unsettled.insert((turn.clone(), field.key.clone()));
                    }
                }
            }
            _ => {}
        }
        state.apply(event);
    }
}

/// Every reply to the open question that may make a difference.
fn replies(plan: &Plan, state: &State) -> Vec<ProspectInput> {
    let Some(asking) = &state.asking else { return Vec::new() };
    let Some((_, node)) = plan.turn(&asking.turn) else { return Vec::new() };
    let typed = |text: &str| ProspectInput::Reply { text: text.to_owned() };
    let mut out = vec![typed("zq"), typed("rather not"), ProspectInput::Skip {}];
    out.extend(plan.side_talk.iter().map(|talk| typed(&talk.phrases[0])));
    let values = |field: usize| values(plan, field);
    // What may be said besides: a number beside the noun of its field.
    let mut besides: Vec<String> = Vec::new();
    for field in &plan.volunteered.1 {
        let definition = &plan.file.fields[*field];
        if !state.values.contains_key(&definition.id) {
            besides.extend(values(*field).iter().map(|text| format!("{text} {}", definition.label)));
        }
    }
    if matches!(asking.stage, Stage::Ask | Stage::Confirm | Stage::Field(_) | Stage::Open) {
        out.extend(besides.iter().map(|besides| typed(&format!("zq, {besides}"))));
    }
    match (&node.kind, &asking.stage) {
        (Kind::Ask(ask), Stage::Ask) => out.extend(values(ask.field).iter().map(|text| typed(text))),
        (Kind::Ask(ask), Stage::Confirm) => {
            out.extend([ProspectInput::Pick { option: "yes".into() }, ProspectInput::Pick { option: "no".into() }]);
            if !plan.file.fields[ask.field].kind.is_yes_or_no() {
                out.extend(values(ask.field).iter().map(|text| typed(text)));
            }
        }
        (_, Stage::Field(id)) => {
            let field = plan.file.fields.iter().position(|field| field.id == *id).unwrap();
            out.extend(values(field).iter().map(|text| typed(text)));
        }
        (Kind::AskTogether(_) | Kind::OpenAsk(_), Stage::Form(ids)) => {
            let mut forms: Vec<BTreeMap<String, String>> = vec![BTreeMap::new()];
            for id in ids {
                let field = plan.file.fields.iter().position(|field| field.id == *id).unwrap();
                let mut texts = values(field);
                texts.extend([String::new(), "zq".to_owned()]);
                let key = &plan.file.fields[field].key;
                forms = forms
                    .into_iter()
                    .flat_map(|form| {
                        texts.iter().map(move |text| {
                            let mut form = form.clone();
                            form.insert(key.clone(), text.clone());
                            form
                        })
                    })
                    .collect();
            }
            out.extend(forms.into_iter().map(|values| ProspectInput::Form { values }));
        }
        (Kind::OpenAsk(_), Stage::Open) => {
            out.push(typed("…"));
            // What may be said at once: the options by their labels, which no two fields share.
            let open = if let Kind::OpenAsk(open) = &node.kind { &open.fields } else { unreachable!() };
            let mut said: Vec<Vec<String>> = vec![Vec::new()];
            for field in open {
                said = said
                    .into_iter()
                    .flat_map(|words| {
                        values(*field).into_iter().map(Some).chain([None]).map(move |text| {
                            let mut words = words.clone();
                            words.extend(text);
                            words
                        })
                    })
                    .collect();
            }
            out.extend(said.into_iter().filter(|words| !words.is_empty()).map(|words| typed(&words.join(", "))));
        }
        (Kind::ReadBack(back), Stage::ReadBack) => {
            out = vec![ProspectInput::Pick { option: "all_right".into() }];
            out.extend(plan.side_talk.iter().map(|talk| typed(&talk.phrases[0])));
            for field in &back.fields {
                let field = &plan.file.fields[*field];
                let never = !state.values.contains_key(&field.id)
                    && !state.answers.iter().any(|answer| answer.field == field.id);
                let filled = plan.turns.iter().any(|node| matches!(&node.kind, Kind::WorkOut(fills) if fills.iter().any(|(of, _)| plan.file.fields[*of].id == field.id)));
                if never && !filled {
                    out.push(ProspectInput::Pick { option: field.key.clone() });
                }
            }
        }
        (kind, stage) => panic!("{kind:?} at {stage:?}"),
    }
    if let Ok(Line::Prospect(nothing)) = line("", 1) {
        out.push(nothing);
    }
    out
}
