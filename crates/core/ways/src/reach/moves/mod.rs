//! How each kind of turn can be left, and what that does to the cells.
//!
//! | file | the turns |
//! |---|---|
//! | `ask` | Ask: known, answered, left, out of tries |
//! | `forms` | Ask together, Open ask, Read back |
//! | `work` | Work out |
//! | `file` | File lead: bands, queues, arms |
//! | this | the others, and what all share |

mod ask;
mod file;
mod forms;
mod work;

use std::rc::Rc;

use lumbo_dialogue::file::FieldType;
use lumbo_dialogue::plan::{AskNode, Kind, Next};

use super::cells::{FORGOTTEN, MISSING, Mask, REFUSED};
use super::explore::{End, Explorer, Set, Visits, Way};
use super::model::{Model, Take};
use super::score::Cloud;

/// Deepest nesting of visits, as the conversation has it.
const VISIT_LIMIT: usize = 50;
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
        Kind::FileLead(filing) => leaving.file(filing.card),
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
                    Take::Band(_) | Take::RuledOut | Take::Lacks | Take::Never => (Vec::new(), vec![pair.1.clone()]),
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
            match &turn.kind {
                Kind::Ask(ask) if self.model.plan.file.fields[ask.field].kind == FieldType::Consent => {
                    self.consented(exit, ask, pair, written, questions);
                }
                _ => self.pair(exit.clone(), pair, turn.next, questions),
            }
        }
    }

    /// An answered consent that no arm takes: a yes goes on, a no takes the way out, unless a skip is on offer.
    fn consented(&mut self, exit: &Exit, ask: &AskNode, pair: Pair, written: &[usize], questions: u32) {
        let next = self.model.plan.turns[self.turn].next;
        let field = ask.field;
        let (no, yes) = if self.model.loose[field] {
            (vec![pair.1.clone()], vec![pair.1.clone()])
        } else {
            options(&pair.1, field, REFUSED)
        };
        for after in yes {
            self.pair(exit.clone(), (Self::narrowed(&pair, &after, written), after), next, questions);
        }
        for after in no {
            let pair = (Self::narrowed(&pair, &after, written), after);
            if ask.skip.is_some() {
                self.pair(exit.clone(), pair, next, questions);
            } else {
                self.way_out(exit, ask, pair, questions);
            }
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

    /// Side-talk that leads away while a question is open; an ask may have been told other things before.
    fn away(&mut self, cells: &[Mask], questions: u32, but: Option<usize>) {
        let mut after = cells.to_vec();
        if but.is_some() {
            self.besides(&mut after, but);
        }
        let (before, after): (Rc<[Mask]>, Rc<[Mask]>) = (cells.into(), after.into());
        for (talk, next) in self.model.away.clone() {
            self.put(Exit::Away(talk), None, Rc::clone(&before), Rc::clone(&after), next, questions);
        }
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
