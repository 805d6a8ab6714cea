//! How each kind of turn can be left, and what that does to the cells.

use std::collections::BTreeSet;
use std::rc::Rc;

use lumbo_dialogue::plan::{AskNode, FormNode, Kind, Next, OpenNode, ReadBackNode, ReadyWayOut};
use lumbo_dialogue::turns::IfKnown;
use lumbo_formula::Formula;
use lumbo_value::{FieldType, Value};

use super::cells::{FIRST, FORGOTTEN, LEFT, LEFT_ALL, MISSING, Mask, NOT_ASKED, TRIED, each, left_at};
use super::explore::{End, Explorer, Filing, Set, Visits, Way};
use super::model::{Model, Take};
use super::score::{Cloud, Exactly, Final, Seen};
use super::test::Filed;

/// Deepest nesting of visits, as the conversation has it.
const VISIT_LIMIT: usize = 50;
/// Most combinations for which a formula is worked out exactly.
const MOST_COMBINATIONS: usize = 512;

/// Most pieces into which a filing is cut.
const MOST_PIECES: usize = 128;

/// A band, by id, and whether a rule-out holds.
type Kinds = (Option<String>, bool);

/// How a turn was left.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(crate) enum Exit {
    /// The conversation began.
    Start,
    /// Nothing was asked.
    Passed,
    /// What was asked for is known already.
    Known,
    /// It was confirmed that what is known is right.
    Confirmed,
    /// An answer.
    Answered,
    /// Skipped or declined.
    Left,
    /// All tries were used up.
    Tried,
    /// Left open at another turn before.
    LeftBefore,
    /// Side-talk led away, by its place.
    Away(usize),
    /// A form was sent.
    Form,
    /// All tries of a form were used up.
    FormTried,
    /// An open question was answered as far as it was.
    Opened,
    /// What was read back is right.
    AllRight,
    /// A lead was filed.
    Filed,
}

/// One way to leave a turn.
pub(crate) struct Move {
    pub exit: Exit,
    pub arm: Option<usize>,
    pub before: Rc<[Mask]>,
    pub after: Rc<[Mask]>,
    pub next: Next,
    /// Sums, where leaving this way narrows them.
    pub clouds: Option<Rc<[Rc<Cloud>]>>,
    pub questions: u32,
    pub visits: Visits,
}

/// Ways to leave one turn being collected.
struct Leaving<'a, 'm, 'p> {
    explorer: &'a mut Explorer<'m, 'p>,
    model: &'m Model<'p>,
    node: usize,
    turn: usize,
    visits: &'a Visits,
    set: &'a Set,
    out: Vec<Move>,
}

/// Every way to leave a turn for the cells it is come to with.
pub(crate) fn moves(
    explorer: &mut Explorer<'_, '_>,
    node: usize,
    turn: usize,
    visits: &Visits,
    set: &Set,
) -> Vec<Move> {
    let model = explorer.model;
    let at = &model.plan.turns[turn];
    let mut leaving = Leaving { explorer, model, node, turn, visits, set, out: Vec::new() };
    match &at.kind {
        Kind::Tell(_) => leaving.on(Exit::Passed, &set.cells, at.next, 0),
        Kind::Ask(ask) => leaving.ask(ask),
        Kind::AskTogether(form) => leaving.form(form),
        Kind::OpenAsk(open) => leaving.open(open),
        Kind::ReadBack(back) => leaving.read_back(back),
        Kind::Fork => leaving.arms(Exit::Passed, vec![(set.cells.to_vec(), set.cells.to_vec())], 0),
        Kind::WorkOut(fills) => leaving.work_out(fills),
        Kind::FileLead(card) => leaving.file(*card),
        Kind::Visit(section) => leaving.visit(*section),
        Kind::Close(close) => {
            let way = Way { from: Some(node), exit: Exit::Passed, before: Rc::clone(&set.cells), questions: 0 };
            leaving.explorer.end(&way, End::Closed(close.outcome.clone()), set);
        }
        Kind::Broken(_) => leaving.broken(),
    }
    leaving.out
}

/// Cells before and after a turn was left.
type Pair = (Vec<Mask>, Vec<Mask>);

impl Leaving<'_, '_, '_> {
    fn cells(&self) -> Vec<Mask> {
        self.set.cells.to_vec()
    }

    fn on(&mut self, exit: Exit, cells: &Rc<[Mask]>, next: Next, questions: u32) {
        self.put(exit, None, Rc::clone(cells), Rc::clone(cells), next, questions);
    }

    fn put(
        &mut self,
        exit: Exit,
        arm: Option<usize>,
        before: Rc<[Mask]>,
        after: Rc<[Mask]>,
        next: Next,
        questions: u32,
    ) {
        let visits = self.visits.clone();
        self.out.push(Move { exit, arm, before, after, next, clouds: None, questions, visits });
    }

    fn pair(&mut self, exit: Exit, pair: Pair, next: Next, questions: u32) {
        self.put(exit, None, pair.0.into(), pair.1.into(), next, questions);
    }

    /// Narrows what was before to what can have led to what is after: written fields stay as they were.
    fn narrowed(pair: &Pair, after: &[Mask], written: &[usize]) -> Vec<Mask> {
        pair.0
            .iter()
            .zip(after)
            .enumerate()
            .map(|(field, (before, after))| if written.contains(&field) { *before } else { before & after })
            .collect()
    }

    /// Takes the first arm that fits, else goes on below. `written` are fields that leaving the turn may have changed.
    fn arms_of(&mut self, exit: &Exit, pairs: Vec<Pair>, written: &[usize], questions: u32) {
        let turn = &self.model.plan.turns[self.turn];
        let answer = if let Kind::Ask(ask) = &turn.kind { Some(ask.field) } else { None };
        let mut rest = pairs;
        for (arm, take) in self.model.takes[self.turn].iter().enumerate() {
            let mut after: Vec<Pair> = Vec::new();
            for pair in rest {
                let (holds, fails) = match take {
                    Take::Options(cells) => match answer {
                        Some(field) if !self.model.loose[field] => options(&pair.1, field, *cells),
                        _ => (vec![pair.1.clone()], vec![pair.1.clone()]),
                    },
                    Take::Holds(test) => test.split(&pair.1, None),
                    Take::Otherwise => (vec![pair.1.clone()], Vec::new()),
                    Take::Perhaps => (vec![pair.1.clone()], vec![pair.1.clone()]),
                    Take::Band(_) | Take::RuledOut | Take::Never => (Vec::new(), vec![pair.1.clone()]),
                };
                for piece in holds {
                    let before = Self::narrowed(&pair, &piece, written);
                    self.put(exit.clone(), Some(arm), before.into(), piece.into(), turn.arms[arm].entry, questions);
                }
                after.extend(fails.into_iter().map(|piece| (Self::narrowed(&pair, &piece, written), piece)));
            }
            if !after.is_empty() {
                self.explorer.found.arm_fails[self.turn][arm] = true;
            }
            rest = after;
        }
        for pair in rest {
            self.pair(exit.clone(), pair, turn.next, questions);
        }
    }

    fn arms(&mut self, exit: Exit, pairs: Vec<Pair>, questions: u32) {
        self.arms_of(&exit, pairs, &[], questions);
    }

    /// What a typed reply may fill besides.
    fn besides(&self, cells: &mut [Mask], but: Option<usize>) {
        for field in &self.model.volunteered {
            if Some(*field) != but
                && !self.model.loose[*field]
                && cells[*field] & MISSING != 0
                && cells[*field] != FORGOTTEN
            {
                cells[*field] |= self.model.taken_anywhere(*field);
            }
        }
    }

    fn written(&self, field: usize) -> Vec<usize> {
        let mut written = self.model.volunteered.clone();
        written.push(field);
        written
    }

    /// Side-talk that leads away while a question is open.
    fn away(&mut self, cells: &[Mask], questions: u32) {
        let cells: Rc<[Mask]> = cells.into();
        for (talk, next) in self.model.away.clone() {
            self.on(Exit::Away(talk), &cells, next, questions);
        }
    }

    fn ask(&mut self, ask: &AskNode) {
        let (model, field) = (self.model, ask.field);
        let cells = self.cells();
        let taken = model.taken_at(self.turn, field);
        let written = self.written(field);
        let known = cells[field] & !MISSING;
        if known != 0 {
            let mut before = cells.clone();
            before[field] = if model.loose[field] { FORGOTTEN } else { known };
            if ask.if_known == IfKnown::Skip {
                self.arms(Exit::Known, vec![(before.clone(), before)], 0);
            } else {
                if ask.if_known == IfKnown::Ask && !model.loose[field] {
                    self.explorer.found.again.entry(self.turn).or_insert(self.node);
                }
                self.arms(Exit::Confirmed, vec![(before.clone(), before.clone())], 1);
                let mut after = before.clone();
                after[field] = if model.loose[field] { FORGOTTEN } else { taken };
                self.besides(&mut after, Some(field));
                self.arms_of(&Exit::Answered, vec![(before.clone(), after)], &written, 1);
                let mut after = before.clone();
                self.besides(&mut after, Some(field));
                self.leave_ask(ask, (before.clone(), after), true);
                if !ask.held {
                    self.away(&before, 1);
                }
            }
        }
        if model.loose[field] {
            if ask.if_known == IfKnown::Skip {
                self.arms_of(&Exit::Answered, vec![(cells.clone(), cells.clone())], &written, 1);
            }
            self.leave_ask(ask, (cells.clone(), cells.clone()), true);
            if !ask.held {
                self.away(&cells, 1);
            }
            return;
        }
        let mine = model.left_at(self.turn, field);
        let elsewhere = cells[field] & LEFT & !if mine == LEFT_ALL { 0 } else { mine };
        if elsewhere != 0 {
            self.left_before(ask, &cells, elsewhere);
        }
        let asked = NOT_ASKED | TRIED | mine;
        let missing = cells[field] & asked;
        if missing == 0 {
            return;
        }
        let mut before = cells;
        before[field] = missing;
        if taken != 0 {
            let mut after = before.clone();
            after[field] = taken;
            self.besides(&mut after, Some(field));
            self.arms_of(&Exit::Answered, vec![(before.clone(), after)], &written, 1);
        }
        let mut after = before.clone();
        self.besides(&mut after, Some(field));
        self.leave_ask(ask, (before.clone(), after), false);
        if !ask.held {
            self.away(&before, 1);
        }
    }

    /// A field that another turn left open is not asked for a second time: skipped there, it goes on; declined there, it
    /// takes the way out, unless a skip is on offer.
    fn left_before(&mut self, ask: &AskNode, cells: &[Mask], elsewhere: Mask) {
        let (model, turn, field) = (self.model, self.turn, ask.field);
        let others = model.askers[field].iter().enumerate().filter(|(_, asker)| asker.turn != turn);
        let left: Vec<_> = others
            .filter(|(order, _)| elsewhere & (left_at(*order) | LEFT_ALL) != 0)
            .map(|(_, asker)| *asker)
            .collect();
        let mut pair = (cells.to_vec(), cells.to_vec());
        pair.0[field] = elsewhere;
        // Who ran out of tries at an Open ask is asked again by the turn after the next.
        let open = left.iter().any(|asker| matches!(model.plan.turns[asker.turn].kind, Kind::OpenAsk(_)));
        pair.1[field] = LEFT_ALL | if open { TRIED } else { 0 };
        let declined = left.iter().any(|asker| asker.declines);
        if left.iter().any(|asker| asker.skips) || declined && ask.skip.is_some() {
            self.pair(Exit::LeftBefore, pair.clone(), model.plan.turns[turn].next, 0);
        }
        if declined && ask.skip.is_none() {
            self.way_out(&Exit::LeftBefore, ask, pair, 0);
        }
    }

    /// An ask that ends without an answer; `keeps` where a value that is known stays.
    fn leave_ask(&mut self, ask: &AskNode, pair: Pair, keeps: bool) {
        let next = self.model.plan.turns[self.turn].next;
        let field = ask.field;
        let left = self.model.left_at(self.turn, field);
        let with = |reason: Mask| {
            let mut pair = pair.clone();
            if !keeps {
                pair.1[field] = reason;
            }
            pair
        };
        // Where an answer is required, declining costs a try like any other reply.
        if ask.skip.is_some() {
            self.pair(Exit::Left, with(left), next, 1);
        } else if !ask.reader.required() {
            self.way_out(&Exit::Left, ask, with(left), 1);
        }
        self.way_out(&Exit::Tried, ask, with(TRIED), 1);
    }

    fn way_out(&mut self, exit: &Exit, ask: &AskNode, pair: Pair, questions: u32) {
        let turn = &self.model.plan.turns[self.turn];
        match ask.way_out {
            ReadyWayOut::GoOn => self.pair(exit.clone(), pair, turn.next, questions),
            ReadyWayOut::Go(next) => self.pair(exit.clone(), pair, next, questions),
            ReadyWayOut::Arm(arm) => match turn.arms.get(arm) {
                Some(taken) => self.put(exit.clone(), Some(arm), pair.0.into(), pair.1.into(), taken.entry, questions),
                None => self.pair(exit.clone(), pair, turn.next, questions),
            },
        }
    }

    /// Cells for which all fields are known, and those for which one is not.
    fn all_known(&self, fields: &[usize]) -> (Option<Vec<Mask>>, Vec<Vec<Mask>>) {
        let mut known = self.cells();
        let mut missing = Vec::new();
        for field in fields {
            let mask = known[*field];
            if self.model.loose[*field] {
                missing.push(known.clone());
                continue;
            }
            if mask & MISSING != 0 {
                let mut lacking = known.clone();
                lacking[*field] = mask & MISSING;
                missing.push(lacking);
            }
            known[*field] = mask & !MISSING;
            if known[*field] == 0 {
                return (None, missing);
            }
        }
        (Some(known), missing)
    }

    fn form(&mut self, form: &FormNode) {
        let model = self.model;
        let next = model.plan.turns[self.turn].next;
        let fields: Vec<usize> = form.fields.iter().map(|wanted| wanted.field).collect();
        let (known, missing) = self.all_known(&fields);
        if let Some(known) = known {
            self.pair(Exit::Known, (known.clone(), known), next, 0);
        }
        for before in missing {
            let (mut sent, mut tried) = (before.clone(), before.clone());
            for wanted in &form.fields {
                let field = wanted.field;
                if model.loose[field] {
                    continue;
                }
                let taken = model.taken_at(self.turn, field);
                let stays = before[field] & !MISSING;
                let left = model.left_at(self.turn, field);
                let empty = if before[field] & MISSING != 0 { left } else { 0 };
                sent[field] = taken | if wanted.reader.required() { 0 } else { stays | empty };
                tried[field] = taken | stays | if before[field] & MISSING != 0 { left | TRIED } else { 0 };
            }
            if fields.iter().all(|field| sent[*field] != 0) {
                self.pair(Exit::Form, (before.clone(), sent), next, 1);
            }
            let out = if let ReadyWayOut::Go(next) = form.way_out { next } else { next };
            self.pair(Exit::FormTried, (before.clone(), tried), out, 1);
            self.away(&before, 1);
        }
    }

    fn open(&mut self, open: &OpenNode) {
        let model = self.model;
        let next = model.plan.turns[self.turn].next;
        let (known, missing) = self.all_known(&open.fields);
        if let Some(known) = known {
            self.pair(Exit::Known, (known.clone(), known), next, 0);
        }
        for before in missing {
            let mut after = before.clone();
            for field in &open.fields {
                if !model.loose[*field] {
                    let reason = if before[*field] & MISSING != 0 { model.left_at(self.turn, *field) } else { 0 };
                    after[*field] = before[*field] & !MISSING | model.taken_anywhere(*field) | reason;
                }
            }
            self.besides(&mut after, None);
            let lacking = open.fields.iter().filter(|field| before[**field] & MISSING != 0).count();
            let most = 1 + u32::try_from(if open.together { lacking.min(1) } else { lacking }).unwrap_or(u32::MAX);
            // Everything may be said at once, or asked for one by one; a call away may come in between.
            self.pair(Exit::Opened, (before.clone(), after.clone()), next, 1);
            if let Some(last) = self.out.last_mut() {
                last.questions = most;
            }
            self.pair(Exit::Opened, (before.clone(), after.clone()), next, 1);
            if !model.away.is_empty() {
                let mut between = after;
                open.fields.iter().for_each(|field| {
                    if !model.loose[*field] {
                        between[*field] |= before[*field];
                    }
                });
                for (talk, next) in model.away.clone() {
                    self.pair(Exit::Away(talk), (before.clone(), between.clone()), next, 1);
                    self.pair(Exit::Away(talk), (before.clone(), between.clone()), next, most);
                }
            }
        }
    }

    fn read_back(&mut self, back: &ReadBackNode) {
        let model = self.model;
        let before = self.cells();
        let mut after = before.clone();
        for field in &back.fields {
            if model.loose[*field] || model.worked_out[*field] {
                continue;
            }
            // What was answered is changed by a revision, which is not looked at; what was never asked can be filled
            // here, and what the site knew can be put right.
            if before[*field] & NOT_ASKED != 0 || model.may_be_known[*field] {
                after[*field] |= model.taken_anywhere(*field);
            }
        }
        let next = model.plan.turns[self.turn].next;
        self.pair(Exit::AllRight, (before.clone(), after), next, 1);
        self.away(&before, 1);
    }

    fn work_out(&mut self, fills: &[(usize, Formula)]) {
        let mut pairs: Vec<Pair> = vec![(self.cells(), self.cells())];
        for (field, formula) in fills {
            if self.model.loose[*field] {
                continue;
            }
            pairs = pairs.into_iter().flat_map(|pair| self.worked_out(pair, *field, formula)).collect();
        }
        let next = self.model.plan.turns[self.turn].next;
        for (before, after) in pairs {
            self.pair(Exit::Passed, (before, after), next, 0);
        }
    }

    /// One field worked out: exactly where all that is read has single values, else anything that it may be.
    fn worked_out(&mut self, pair: Pair, field: usize, formula: &Formula) -> Vec<Pair> {
        let model = self.model;
        let reads: Vec<usize> =
            formula.reads().iter().filter_map(|key| model.field_by_key.get(key.as_str()).copied()).collect();
        let loose = reads.iter().any(|read| model.loose[*read]);
        let exact = !loose && reads.iter().all(|read| model.cells[*read].single || pair.1[*read] & !MISSING == 0);
        // Where values are told apart no finer than known and missing, one of each stands for all.
        let choices: Vec<Vec<Mask>> = reads
            .iter()
            .map(|read| {
                let mask = pair.1[*read];
                let missing = (mask & MISSING != 0).then_some(mask & MISSING);
                let known = mask & !MISSING & model.cells[*read].known();
                if model.cells[*read].single && !loose {
                    missing.into_iter().chain(each(known).map(|cell| 1 << cell)).collect()
                } else {
                    missing.into_iter().chain((known != 0).then_some(known)).collect()
                }
            })
            .collect();
        let combinations = choices.iter().fold(1_usize, |all, one| all.saturating_mul(one.len().max(1)));
        let anything = model.cells[field].known();
        if loose || combinations > MOST_COMBINATIONS {
            let mut after = pair.1.clone();
            after[field] = anything | NOT_ASKED;
            return vec![(pair.0, after)];
        }
        let mut out: Vec<Pair> = Vec::new();
        for mut number in 0..combinations {
            let mut piece = pair.1.clone();
            for (read, all) in reads.iter().zip(&choices) {
                if !all.is_empty() {
                    piece[*read] = all[number % all.len()];
                    number /= all.len();
                }
            }
            let given = self.given(&piece, &reads, field, formula, exact);
            if given & NOT_ASKED != 0 {
                for read in reads.iter().filter(|read| piece[**read] & MISSING != 0) {
                    self.explorer.found.lacking.entry((self.turn, *read)).or_insert(self.node);
                }
            }
            let before: Vec<Mask> = pair.0.iter().zip(&piece).map(|(before, piece)| before & piece).collect();
            let before = if reads.contains(&field) { pair.0.clone() } else { before };
            piece[field] = given;
            out.push((before, piece));
        }
        join_pairs(out)
    }

    /// Cells that a formula can give for a piece.
    fn given(&self, piece: &[Mask], reads: &[usize], field: usize, formula: &Formula, exact: bool) -> Mask {
        let model = self.model;
        let cells = &model.cells[field];
        let values = Standing { model, cells: piece };
        let result = if exact { formula.run(&Exactly { model, cells: piece }) } else { formula.run(&values) };
        if exact {
            return match result {
                Ok(Some(value)) => cell_of(model, field, &value).unwrap_or_else(|| cells.known()),
                Ok(None) | Err(_) => NOT_ASKED,
            };
        }
        // Whether it gives anything depends on what is missing, and on values only where they decide a branch.
        let decides = formula.deciders().iter().any(|key| {
            model.field_by_key.get(key.as_str()).is_some_and(|field| {
                piece[*field] & !MISSING != 0 && !(model.cells[*field].single && piece[*field].count_ones() == 1)
            })
        });
        let unsure = decides && reads.iter().any(|read| piece[*read] & MISSING != 0);
        match result {
            Ok(None) if !unsure => NOT_ASKED,
            Ok(Some(_)) if !unsure && !formula.can_fail() => cells.known(),
            _ => NOT_ASKED | cells.known(),
        }
    }

    fn file(&mut self, card: Option<usize>) {
        let model = self.model;
        let set = self.set;
        for (place, need) in model.needs.iter().enumerate() {
            let followed = need.iter().all(|field| !model.loose[*field]);
            if followed && need.iter().all(|field| set.cells[*field] & MISSING != 0) {
                self.explorer.found.lacks.entry((self.turn, place)).or_insert(self.node);
            }
        }
        let pieces = match card {
            Some(card) => {
                self.explorer.found.filed_by[card] = true;
                self.explorer.see_filed(set, card);
                self.pieces(card)
            }
            None => vec![(self.cells(), Cloud::default())],
        };
        let mut filings: Vec<Filing> = Vec::new();
        for (cells, adds) in &pieces {
            for one in self.finals(card, adds) {
                let band = self.band_id(card, &one);
                let queues = self.queues(cells, band.clone(), one.low, one.high);
                self.explorer.found.queues.extend(queues.iter().cloned());
                // Points are joined where the band is the same, so that few filings are kept.
                match filings.iter_mut().find(|known| known.band == band && known.out == one.out) {
                    Some(known) => {
                        (known.low, known.high) = (known.low.min(one.low), known.high.max(one.high));
                        known.queues.extend(queues);
                    }
                    None => filings.push(Filing {
                        node: self.node,
                        band,
                        out: one.out,
                        low: one.low,
                        high: one.high,
                        queues,
                        card,
                    }),
                }
            }
        }
        let kinds: Vec<Kinds> = filings.iter().map(|filing| (filing.band.clone(), filing.out)).collect();
        self.explorer.found.filings.extend(filings);
        self.filed_arms(card, &pieces, &kinds);
    }

    /// What a filing comes to for a piece, once what its groups give is added.
    fn finals(&self, card: Option<usize>, adds: &Cloud) -> BTreeSet<Final> {
        match card {
            Some(card) => {
                let cloud = adds.plus(&self.set.clouds[card]);
                self.model.cards[card].finals(&cloud, &self.model.plan.cards[card])
            }
            None => BTreeSet::from([Final { band: None, out: false, low: 0, high: 0 }]),
        }
    }

    fn band_id(&self, card: Option<usize>, one: &Final) -> Option<String> {
        let card = &self.model.cards[card?];
        one.band.and_then(|band| card.band(band)).map(str::to_owned)
    }

    /// Queues that rules can name, and which rules can hold.
    fn queues(&mut self, cells: &[Mask], band: Option<String>, low: i64, high: i64) -> BTreeSet<Option<String>> {
        let model = self.model;
        let filed = Filed { band, low, high };
        let mut queues = BTreeSet::new();
        let mut rest = vec![cells.to_vec()];
        for (place, (_, test, queue)) in model.routes.iter().enumerate() {
            let mut fails = Vec::new();
            for piece in &rest {
                let (held, failed) = test.split(piece, Some(&filed));
                if !held.is_empty() {
                    queues.insert(Some(queue.clone()));
                    self.explorer.found.routes[place] = true;
                }
                fails.extend(failed);
            }
            rest = fails;
        }
        if !rest.is_empty() {
            queues.insert(model.plan.routes.otherwise().map(str::to_owned));
        }
        queues
    }

    /// The arms of a filing, by band, by being ruled out, and by conditions.
    fn filed_arms(&mut self, card: Option<usize>, pieces: &[(Vec<Mask>, Cloud)], kinds: &[Kinds]) {
        let by_band = |take: &Take| matches!(take, Take::Band(_) | Take::RuledOut);
        match card.filter(|_| self.model.takes[self.turn].iter().any(by_band)) {
            Some(card) => {
                for (cells, adds) in pieces {
                    let kinds: BTreeSet<Kinds> = self
                        .finals(Some(card), adds)
                        .iter()
                        .map(|one| (self.band_id(Some(card), one), one.out))
                        .collect();
                    self.piece_arms(cells.clone(), &kinds.into_iter().collect::<Vec<_>>(), Some((card, adds)));
                }
            }
            None => self.piece_arms(self.cells(), kinds, None),
        }
    }

    /// The cells at a filing, cut so that each piece says what its groups give that are not added up yet.
    fn pieces(&mut self, card: usize) -> Vec<(Vec<Mask>, Cloud)> {
        let model = self.model;
        let scorecard = &model.cards[card];
        let mut pieces = vec![(self.cells(), scorecard.zero())];
        for group in self.explorer.not_added(self.set, card) {
            let group = &scorecard.groups[group];
            let mut next: Vec<(Vec<Mask>, Cloud)> = Vec::new();
            for (cells, sums) in &pieces {
                for at in scorecard.combinations(group, cells, model).unwrap_or_else(|| vec![cells.clone()]) {
                    let gives = scorecard.gives(group, &at, model, &mut Seen::default());
                    next.push((at, gives.plus(sums)));
                }
            }
            pieces = joined(next);
            if pieces.len() > MOST_PIECES {
                return self.in_one(card);
            }
        }
        pieces
    }

    /// Too many pieces to keep apart: all together, with whatever they may give.
    fn in_one(&self, card: usize) -> Vec<(Vec<Mask>, Cloud)> {
        let model = self.model;
        let mut sums = model.cards[card].zero();
        for group in self.explorer.not_added(self.set, card) {
            sums = model.cards[card]
                .gives(&model.cards[card].groups[group], &self.set.cells, model, &mut Seen::default())
                .plus(&sums);
        }
        vec![(self.cells(), sums)]
    }

    fn piece_arms(&mut self, cells: Vec<Mask>, kinds: &[Kinds], narrow: Option<(usize, &Cloud)>) {
        let turn = &self.model.plan.turns[self.turn];
        let mut rest: Vec<(Vec<Mask>, Vec<Kinds>)> = vec![(cells, kinds.to_vec())];
        for (arm, take) in self.model.takes[self.turn].iter().enumerate() {
            let mut after: Vec<(Vec<Mask>, Vec<Kinds>)> = Vec::new();
            for (cells, kinds) in rest {
                let by_kind = |holds: &dyn Fn(&Kinds) -> bool| {
                    let (held, failed): (Vec<_>, Vec<_>) = kinds.iter().cloned().partition(|kind| holds(kind));
                    (vec![(cells.clone(), held)], vec![(cells.clone(), failed)])
                };
                let (held, failed) = match take {
                    Take::Band(ids) => by_kind(&|(band, _)| band.as_ref().is_some_and(|band| ids.contains(band))),
                    Take::RuledOut => by_kind(&|(_, out)| *out),
                    Take::Otherwise => (vec![(cells.clone(), kinds.clone())], Vec::new()),
                    Take::Holds(test) => {
                        let (held, failed) = test.split(&cells, None);
                        let with =
                            |pieces: Vec<Vec<Mask>>| pieces.into_iter().map(|piece| (piece, kinds.clone())).collect();
                        (with(held), with(failed))
                    }
                    Take::Perhaps => (vec![(cells.clone(), kinds.clone())], vec![(cells.clone(), kinds.clone())]),
                    Take::Options(_) | Take::Never => (Vec::new(), vec![(cells.clone(), kinds.clone())]),
                };
                for (cells, kinds) in held.into_iter().filter(|(_, kinds)| !kinds.is_empty()) {
                    self.filed(Some(arm), cells, &kinds, turn.arms[arm].entry, narrow);
                }
                after.extend(failed.into_iter().filter(|(_, kinds)| !kinds.is_empty()));
            }
            if !after.is_empty() {
                self.explorer.found.arm_fails[self.turn][arm] = true;
            }
            rest = after;
        }
        for (cells, kinds) in rest {
            self.filed(None, cells, &kinds, turn.next, narrow);
        }
    }

    fn filed(
        &mut self,
        arm: Option<usize>,
        cells: Vec<Mask>,
        kinds: &[Kinds],
        next: Next,
        narrow: Option<(usize, &Cloud)>,
    ) {
        let clouds = narrow.map(|(card, adds)| {
            let mut clouds: Vec<Rc<Cloud>> = self.set.clouds.to_vec();
            let model = &self.model.cards[card];
            clouds[card] = model.only(&clouds[card], adds, &self.model.plan.cards[card], |one| {
                let band = one.band.and_then(|band| model.band(band));
                kinds.iter().any(|(known, out)| known.as_deref() == band && *out == one.out)
            });
            clouds.into()
        });
        let cells: Rc<[Mask]> = cells.into();
        let visits = self.visits.clone();
        let (before, after) = (Rc::clone(&cells), cells);
        self.out.push(Move { exit: Exit::Filed, arm, before, after, next, clouds, questions: 0, visits });
    }

    fn visit(&mut self, section: usize) {
        let cells = Rc::clone(&self.set.cells);
        if self.visits.len() >= VISIT_LIMIT || self.visits.contains(&self.turn) {
            return self.on(Exit::Passed, &cells, Next::Nowhere, 0);
        }
        self.explorer.found.sections[section] = true;
        let mut visits = self.visits.clone();
        visits.push(self.turn);
        let next = self.model.plan.sections[section].entry;
        let (before, after) = (Rc::clone(&cells), cells);
        self.out.push(Move { exit: Exit::Passed, arm: None, before, after, next, clouds: None, questions: 0, visits });
    }

    /// A kind that cannot run yet goes any of its arms, and may fill what it names.
    fn broken(&mut self) {
        let turn = &self.model.plan.turns[self.turn];
        let mut after = self.cells();
        for field in &self.model.may_fill[self.turn] {
            if !self.model.loose[*field] {
                after[*field] |= self.model.cells[*field].known() | self.model.left_at(self.turn, *field);
            }
        }
        let (before, after): (Rc<[Mask]>, Rc<[Mask]>) = (self.cells().into(), after.into());
        for (arm, node) in turn.arms.iter().enumerate() {
            self.put(Exit::Passed, Some(arm), Rc::clone(&before), Rc::clone(&after), node.entry, 0);
        }
        self.put(Exit::Passed, None, before, after, turn.next, 0);
    }
}

/// Cells of an answer that are among some, and those that are not.
fn options(cells: &[Mask], field: usize, among: Mask) -> (Vec<Vec<Mask>>, Vec<Vec<Mask>>) {
    let with = |mask: Mask| {
        (mask != 0).then(|| {
            let mut piece = cells.to_vec();
            piece[field] = mask;
            piece
        })
    };
    (with(cells[field] & among).into_iter().collect(), with(cells[field] & !among).into_iter().collect())
}

/// Pairs that differ in one field after and in one at most before, put together.
fn join_pairs(pairs: Vec<Pair>) -> Vec<Pair> {
    let mut out: Vec<Pair> = Vec::new();
    for pair in pairs {
        let twin = out.iter_mut().find(|known| {
            let one = super::test::differing(&known.1, &pair.1);
            let places = |a: &[Mask], b: &[Mask]| a.iter().zip(b).position(|(a, b)| a != b);
            one.is_some()
                && super::test::differing(&known.0, &pair.0).is_some()
                && (known.0 == pair.0 || places(&known.0, &pair.0) == places(&known.1, &pair.1))
        });
        match twin {
            Some(known) => {
                known.0.iter_mut().zip(&pair.0).for_each(|(mask, other)| *mask |= other);
                known.1.iter_mut().zip(&pair.1).for_each(|(mask, other)| *mask |= other);
            }
            None => out.push(pair),
        }
    }
    out
}

/// Pieces that give the same and differ in one field, put together.
fn joined(pieces: Vec<(Vec<Mask>, Cloud)>) -> Vec<(Vec<Mask>, Cloud)> {
    let mut by_sums: Vec<(Cloud, Vec<Vec<Mask>>)> = Vec::new();
    for (cells, sums) in pieces {
        match by_sums.iter_mut().find(|(known, _)| *known == sums) {
            Some((_, all)) => all.push(cells),
            None => by_sums.push((sums, vec![cells])),
        }
    }
    by_sums
        .into_iter()
        .flat_map(|(sums, all)| super::test::union(all).into_iter().map(move |cells| (cells, sums.clone())))
        .collect()
}

/// The cell of a value that a formula gave.
fn cell_of(model: &Model<'_>, field: usize, value: &Value) -> Option<Mask> {
    let cells = &model.cells[field];
    let kind = model.plan.file.fields[field].kind;
    let value = match (value, kind) {
        (Value::Text { text }, FieldType::Choice) => Value::choice(text.clone()),
        _ => value.clone(),
    };
    if cells.blurred {
        return None;
    }
    let place = super::place::of(cells, &value)?;
    Some(1 << (FIRST + place))
}

/// Values where each field has one value standing for all that are known.
struct Standing<'a> {
    model: &'a Model<'a>,
    cells: &'a [Mask],
}

impl lumbo_formula::Lookup for Standing<'_> {
    fn value(&self, key: &str) -> Option<&Value> {
        let field = *self.model.field_by_key.get(key)?;
        if self.cells[field] & MISSING != 0 {
            return None;
        }
        let cells = &self.model.cells[field];
        each(self.cells[field] & cells.known()).find_map(|cell| cells.value(cell)).or(Some(&ANY_TEXT))
    }
    fn today(&self) -> Option<jiff::civil::Date> {
        Some(self.model.today)
    }
    fn currency(&self) -> &str {
        &self.model.plan.file.settings.currency
    }
}

/// Stands for a text that could not be made up.
static ANY_TEXT: Value = Value::Text { text: String::new() };
