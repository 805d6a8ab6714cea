//! The outline made ready for the analysis: cells of every field, tests of every arm, what each turn reads and writes.

use std::collections::HashMap;

use jiff::Timestamp;
use jiff::civil::Date;

use lumbo_condition::{Comparand, Operator, Ready, Subject};
use lumbo_dialogue::Plan;
use lumbo_dialogue::file::{Dialogue, FieldType, Rule, Turn, When};
use lumbo_dialogue::plan::{Fields, Kind, Next, ReadyTalk, ReadyWhen};
use lumbo_dialogue::score::ReadyCriterion;
use lumbo_route::Goes;
use lumbo_value::text::{Piece, parse};
use lumbo_value::{Text, Value};

use super::cells::{Cells, Compared, FIRST, LEFT_ALL, MISSING, Mask, Taken, cut, left_at, taken};
use super::live::Live;
use super::score::CardModel;
use super::test::Test;

/// What is known without asking and stays as it is through a conversation.
const CIRCUMSTANCES: [&str; 10] = [
    "page",
    "referrer",
    "campaign",
    "campaign_source",
    "campaign_medium",
    "campaign_term",
    "campaign_content",
    "language",
    "device",
    "returning",
];

/// What makes the conversation take an arm.
#[derive(Debug, Clone)]
pub(crate) enum Take {
    /// The answer is in one of these cells.
    Options(Mask),
    /// A condition.
    Holds(Test),
    /// Nothing before it was taken.
    Otherwise,
    /// The band is one of these, by id.
    Band(Vec<String>),
    /// A rule-out holds.
    RuledOut,
    /// Something of what a lead must carry is missing.
    Lacks,
    /// By the way out only.
    Never,
    /// Of a kind that cannot run yet: it may always be taken.
    Perhaps,
}

/// A turn that asks for a field.
#[derive(Debug, Clone, Copy)]
pub(crate) struct Asker {
    pub turn: usize,
    /// It can be skipped.
    pub skips: bool,
    /// It can be declined, or left as if it were.
    pub declines: bool,
}

/// Everything that the exploration looks up.
#[derive(Debug)]
pub(crate) struct Model<'p> {
    pub plan: &'p Plan,
    pub today: Date,
    pub circumstances: Vec<String>,
    pub field_by_key: HashMap<&'p str, usize>,
    /// Fields of the dialogue, then circumstances.
    pub cells: Vec<Cells>,
    /// Fields that are not followed: too many, or made loose to keep the budget.
    pub loose: Vec<bool>,
    /// Arms of every turn.
    pub takes: Vec<Vec<Take>>,
    /// What every question takes of every field it asks for.
    pub takes_of: Vec<Vec<(usize, Taken)>>,
    /// What is taken of a field where another question is open.
    pub by_itself: Vec<Option<Taken>>,
    /// Fields that a reply to another question may fill.
    pub volunteered: Vec<usize>,
    /// The turns that ask for a field, in their order.
    pub askers: Vec<Vec<Asker>>,
    /// Fields that each turn shows without a fallback.
    pub shows: Vec<Vec<usize>>,
    /// Fields of type consent that some turn asks for.
    pub consents: Vec<usize>,
    /// Personal fields that each turn asks for, without asking for consent itself.
    pub personal_asks: Vec<Vec<usize>>,
    /// Fields that a lead must carry, each a list of alternatives.
    pub needs: Vec<Vec<usize>>,
    pub cards: Vec<CardModel>,
    pub routes: Vec<(String, Test, Goes<'p>)>,
    /// Where side-talk leads away to.
    pub away: Vec<(usize, Next)>,
    /// Fields that a broken turn may fill with anything.
    pub may_fill: Vec<Vec<usize>>,
    pub live: Live,
}

impl<'p> Model<'p> {
    /// Makes a plan ready; `loose` names fields that are not followed.
    pub fn new(plan: &'p Plan, now: Timestamp, loose: &[usize]) -> Self {
        let today = plan.zone.to_datetime(now).date();
        let file = &plan.file;
        let field_by_key: HashMap<&str, usize> =
            file.fields.iter().enumerate().rev().map(|(index, field)| (field.key.as_str(), index)).collect();
        let circumstances: Vec<String> = CIRCUMSTANCES.iter().map(|name| (*name).to_owned()).collect();
        let compared = compared(plan, &field_by_key, &circumstances);
        let mut cells: Vec<Cells> =
            file.fields.iter().zip(&compared).map(|(field, compared)| cut(plan, field, compared, today)).collect();
        cells.extend(compared[file.fields.len()..].iter().map(circumstance));
        let mut is_loose = vec![false; cells.len()];
        loose.iter().for_each(|field| is_loose[*field] = true);
        let mut model = Self {
            plan,
            today,
            circumstances,
            field_by_key,
            cells,
            loose: is_loose,
            takes: Vec::new(),
            takes_of: Vec::new(),
            by_itself: Vec::new(),
            volunteered: plan.volunteered.1.clone(),
            askers: Vec::new(),
            shows: Vec::new(),
            consents: Vec::new(),
            personal_asks: vec![Vec::new(); plan.turns.len()],
            needs: Vec::new(),
            cards: Vec::new(),
            routes: Vec::new(),
            away: Vec::new(),
            may_fill: Vec::new(),
            live: Live::default(),
        };
        model.fill_in(&compared);
        model
    }

    fn fill_in(&mut self, compared: &[Compared<'_>]) {
        let plan = self.plan;
        let file = &plan.file;
        let turns = file_turns(file);
        self.takes = plan.turns.iter().map(|node| self.takes_at(&node.kind, node.id.as_str(), &turns)).collect();
        let of = |model: &Self, field: usize, reader: &lumbo_reading::Reader| {
            (field, taken(plan, &file.fields[field], &model.cells[field], reader, &compared[field].rules, model.today))
        };
        self.takes_of = plan
            .turns
            .iter()
            .map(|node| match &node.kind {
                Kind::Ask(ask) => vec![of(self, ask.field, &ask.reader)],
                Kind::AskTogether(form) => {
                    form.fields.iter().map(|wanted| of(self, wanted.field, &wanted.reader)).collect()
                }
                _ => Vec::new(),
            })
            .collect();
        self.by_itself = plan
            .readers
            .iter()
            .enumerate()
            .map(|(field, reader)| reader.as_ref().map(|reader| of(self, field, reader).1))
            .collect();
        let mut askers: Vec<Vec<Asker>> = vec![Vec::new(); file.fields.len()];
        self.may_fill = vec![Vec::new(); plan.turns.len()];
        self.shows = vec![Vec::new(); plan.turns.len()];
        for (index, node) in plan.turns.iter().enumerate() {
            let Some(turn) = turns.get(node.id.as_str()) else { continue };
            let keys = |keys: Vec<&str>| -> Vec<usize> {
                keys.into_iter().filter_map(|key| self.field_by_key.get(key).copied()).collect()
            };
            let asked = keys(turn.asks_for());
            for field in &asked {
                let asker = |skips, declines| Asker { turn: index, skips, declines };
                match &node.kind {
                    Kind::Ask(ask) => askers[*field].push(asker(ask.skip.is_some(), !ask.reader.required())),
                    Kind::AskTogether(_) => askers[*field].push(asker(true, false)),
                    Kind::OpenAsk(_) | Kind::Broken(_) => askers[*field].push(asker(true, true)),
                    Kind::Tell(_)
                    | Kind::ReadBack(_)
                    | Kind::Fork
                    | Kind::WorkOut(_)
                    | Kind::FileLead(_)
                    | Kind::Visit(_)
                    | Kind::Close(_) => {}
                }
            }
            let filled = keys(turn.fills());
            if let Kind::Broken(_) = node.kind {
                self.may_fill[index] = asked.iter().copied().chain(filled).collect();
            }
            let consents = |field: &&usize| file.fields[**field].kind == FieldType::Consent;
            if node.kind.asks() && !matches!(node.kind, Kind::ReadBack(_)) {
                self.consents.extend(asked.iter().filter(consents));
                if !asked.iter().any(|field| consents(&field)) {
                    self.personal_asks[index] =
                        asked.iter().copied().filter(|field| file.fields[*field].personal).collect();
                }
            }
            self.shows[index] = shown_by(turn, &file.language, &self.field_by_key);
        }
        self.askers = askers;
        self.needs.clone_from(&plan.needs);
        self.cards = plan.cards.iter().map(|card| CardModel::new(card, self)).collect();
        let mut routes = Vec::new();
        plan.routes.each_rule(|id, ready, goes| routes.push((id.to_owned(), Test::of(ready, self), goes)));
        self.routes = routes;
        self.away = plan
            .side_talk
            .iter()
            .enumerate()
            .filter_map(|(place, talk)| if let ReadyTalk::Go(next) = talk.does { Some((place, next)) } else { None })
            .collect();
        self.live = Live::of(self);
    }

    fn takes_at(&self, kind: &Kind, id: &str, turns: &HashMap<&str, &Turn>) -> Vec<Take> {
        let Some(node) = self.plan.turn(id).map(|(_, node)| node) else { return Vec::new() };
        if let Kind::Broken(_) = kind {
            return node.arms.iter().map(|_| Take::Perhaps).collect();
        }
        let ask = if let Kind::Ask(ask) = kind { Some(ask.field) } else { None };
        let written = turns.get(id).map_or(&[][..], |turn| turn.arms());
        node.arms
            .iter()
            .enumerate()
            .map(|(place, arm)| match &arm.when {
                ReadyWhen::Options(keys) => Take::Options(ask.map_or(0, |field| self.option_cells(field, keys))),
                ReadyWhen::Holds(ready) => Take::Holds(Test::of(ready, self)),
                ReadyWhen::Otherwise => Take::Otherwise,
                ReadyWhen::Band(ids) => Take::Band(ids.clone()),
                ReadyWhen::RuledOut => Take::RuledOut,
                ReadyWhen::Lacks => Take::Lacks,
                // A condition that could not be read has a finding of its own.
                ReadyWhen::Never => match written.get(place).map(|arm| &arm.when) {
                    Some(When::Holds(_)) => Take::Perhaps,
                    _ => Take::Never,
                },
            })
            .collect()
    }

    fn option_cells(&self, field: usize, keys: &[String]) -> Mask {
        let cells = &self.cells[field];
        if cells.blurred || self.loose[field] {
            return cells.known();
        }
        cells
            .values
            .iter()
            .enumerate()
            .filter(|(_, value)| match value {
                Some(Value::Choice { key }) => keys.contains(key),
                Some(Value::YesNo { yes } | Value::Consent { given: yes, .. }) => {
                    keys.iter().any(|key| key == if *yes { "yes" } else { "no" })
                }
                _ => false,
            })
            .fold(0, |mask, (place, _)| mask | 1 << (FIRST + place))
    }

    /// Cells with all that a lead must carry, and cells that lack something of it.
    pub fn complete(&self, cells: Vec<Mask>) -> (Vec<Vec<Mask>>, Vec<Vec<Mask>>) {
        let (mut complete, mut lacking) = (vec![cells], Vec::new());
        for need in &self.needs {
            let mut next = Vec::new();
            for piece in complete {
                if need.iter().any(|field| self.loose[*field]) {
                    lacking.push(piece.clone());
                    next.push(piece);
                    continue;
                }
                let mut missing = piece;
                let mut all = true;
                for field in need {
                    let known = missing[*field] & !MISSING;
                    if known != 0 {
                        let mut with = missing.clone();
                        with[*field] = known;
                        next.push(with);
                    }
                    missing[*field] &= MISSING;
                    all &= missing[*field] != 0;
                    if !all {
                        break;
                    }
                }
                if all {
                    lacking.push(missing);
                }
            }
            complete = next;
        }
        (complete, lacking)
    }

    /// What a field's cells are where it may be anything that its reader takes.
    pub fn taken_anywhere(&self, field: usize) -> Mask {
        match self.by_itself.get(field).and_then(Option::as_ref) {
            Some(taken) => taken.mask,
            None => self.cells[field].known(),
        }
    }

    /// The cell of a field that a turn left open.
    pub fn left_at(&self, turn: usize, field: usize) -> Mask {
        self.askers[field].iter().position(|asker| asker.turn == turn).map_or(LEFT_ALL, left_at)
    }

    /// What a turn takes of a field.
    pub fn taken_at(&self, turn: usize, field: usize) -> Mask {
        self.takes_of[turn]
            .iter()
            .find(|(of, _)| *of == field)
            .map_or_else(|| self.taken_anywhere(field), |(_, taken)| taken.mask)
    }

    /// Fields and circumstances.
    pub fn width(&self) -> usize {
        self.cells.len()
    }

    pub fn no_fields(&self) -> Fields {
        Fields::none(self.width())
    }
}

/// The turns of a file by id; the first of each.
fn file_turns(file: &Dialogue) -> HashMap<&str, &Turn> {
    let mut turns = HashMap::new();
    file.each_turn(&mut |_, _, turn| {
        turns.entry(turn.id()).or_insert(turn);
    });
    turns
}

/// Fields that a turn shows without a fallback.
fn shown_by(turn: &Turn, language: &str, keys: &HashMap<&str, usize>) -> Vec<usize> {
    let mut found = Vec::new();
    let mut bare = turn.clone();
    if let Some(arms) = bare.arms_mut() {
        arms.clear();
    }
    for text in bare.texts() {
        shown_in(text, language, keys, &mut found);
    }
    found.sort_unstable();
    found.dedup();
    found
}

pub(crate) fn shown_in(text: &Text, language: &str, keys: &HashMap<&str, usize>, found: &mut Vec<usize>) {
    for piece in parse(text.get(language, language)).into_iter().flatten() {
        if let Piece::Chip(chip) = piece
            && chip.fallback.is_none()
        {
            found.extend(keys.get(chip.field.as_str()));
        }
    }
}

/// Cells of what is known without asking.
fn circumstance(compared: &Compared<'_>) -> Cells {
    let mut constants: Vec<&str> = Vec::new();
    let mut blurred = false;
    for (is, to) in &compared.with {
        blurred |= !matches!(
            is,
            Operator::Is
                | Operator::IsNot
                | Operator::IsOneOf
                | Operator::IsNoneOf
                | Operator::IsKnown
                | Operator::IsMissing
        );
        constants
            .extend(to.iter().filter_map(|to| if let Comparand::Text(text) = to { Some(text.as_str()) } else { None }));
    }
    constants.sort_unstable();
    constants.dedup();
    blurred |= constants.len() > 50;
    let mut values: Vec<Option<Value>> = Vec::new();
    if !blurred {
        values.extend(constants.iter().map(|text| Some(Value::text(*text))));
    }
    values.push(None);
    Cells { values, single: false, blurred, fixed: Vec::new() }
}

/// What everything compares each field and circumstance with.
fn compared<'p>(plan: &'p Plan, keys: &HashMap<&str, usize>, circumstances: &[String]) -> Vec<Compared<'p>> {
    let file = &plan.file;
    let mut out: Vec<Compared<'p>> = Vec::new();
    out.resize_with(file.fields.len() + circumstances.len(), Compared::default);
    let mut look = |ready: &'p Ready| {
        each_comparison(ready, &mut |subject, is, to| match subject {
            Subject::Field(key) => {
                if let Some(field) = keys.get(key.as_str()) {
                    out[*field].with.push((is, to));
                }
            }
            Subject::Context(name) => {
                if let Some(place) = circumstances.iter().position(|known| known == name) {
                    out[file.fields.len() + place].with.push((is, to));
                }
            }
            Subject::Score(_) | Subject::Band(_) | Subject::Settled => {}
        });
    };
    for arm in plan.turns.iter().flat_map(|node| &node.arms) {
        if let ReadyWhen::Holds(ready) = &arm.when {
            look(ready);
        }
    }
    for card in &plan.cards {
        for criterion in card.criteria().iter().flatten() {
            match criterion {
                ReadyCriterion::When(ready, _) => look(ready),
                ReadyCriterion::Table(_, rows) => rows.iter().for_each(|(ready, _)| look(ready)),
                ReadyCriterion::Formula(_) | ReadyCriterion::Broken => {}
            }
        }
        card.must_haves().iter().chain(card.rule_outs()).for_each(&mut look);
    }
    plan.routes.each_rule(|_, ready, _| look(ready));
    for (field, compared) in file.fields.iter().zip(&mut out) {
        compared.rules.extend(&field.rules);
    }
    file.each_turn(&mut |_, _, turn| {
        let mut put = |key: &str, rules: &'p [Rule]| {
            if let Some(field) = keys.get(key) {
                out[*field].rules.extend(rules);
            }
        };
        match turn {
            Turn::Ask(ask) => {
                put(&ask.field, &ask.rules);
                for arm in &ask.arms {
                    if let (When::Options(options), Some(field)) = (&arm.when, keys.get(ask.field.as_str())) {
                        out[*field].options.extend(options.iter().map(String::as_str));
                    }
                }
            }
            Turn::AskTogether(form) => form.fields.iter().for_each(|wanted| put(&wanted.field, &wanted.rules)),
            _ => {}
        }
    });
    out
}

fn each_comparison<'a>(ready: &'a Ready, visit: &mut impl FnMut(&'a Subject, Operator, &'a [Comparand])) {
    match ready {
        Ready::All(parts) | Ready::Any(parts) => parts.iter().for_each(|part| each_comparison(part, visit)),
        Ready::Compare { subject, is, to } => visit(subject, *is, to),
    }
}
