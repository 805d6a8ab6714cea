//! Conditions over sets of cells: which of holds, does not hold and unknown are possible, and where to cut.

use lumbo_condition::circumstances::{Circumstances, Context};
use lumbo_condition::{Comparand, Facts, Operator, Ready, Scored, Subject, Truth};
use lumbo_formula::Lookup;
use lumbo_value::Value;

use super::cells::{MISSING, Mask, each};
use super::model::Model;

/// Possible truths, as bits.
pub(crate) type Truths = u8;
/// It can hold.
pub(crate) const HOLDS: Truths = 1;
/// It can fail.
pub(crate) const FAILS: Truths = 2;
/// It can be unknown because answers are missing.
pub(crate) const UNKNOWN: Truths = 4;

/// Most pieces into which one condition cuts a set of cells.
const MOST_PIECES: usize = 2_048;

/// A condition made ready for sets of cells.
#[derive(Debug, Clone)]
pub(crate) enum Test {
    /// All of them.
    All(Vec<Test>),
    /// Any of them.
    Any(Vec<Test>),
    /// A comparison that cells decide.
    Cells {
        /// The field.
        field: usize,
        /// Cells for which it holds.
        yes: Mask,
        /// Cells for which it does not.
        no: Mask,
    },
    /// A comparison that may go either way.
    Open {
        /// The field, where it is one: unknown while that is missing.
        field: Option<usize>,
    },
    /// The band of the filing at hand.
    Band(Operator, Vec<String>),
    /// The points of the filing at hand.
    Score(Ready),
}

/// What is known of the filing at hand.
#[derive(Debug, Clone, PartialEq, Eq, PartialOrd, Ord)]
pub(crate) struct Filed {
    /// The band's id; nothing where a rule-out holds or no scorecard is used.
    pub band: Option<String>,
    /// Lowest points.
    pub low: i64,
    /// Highest points.
    pub high: i64,
}

/// One field's value, for deciding a comparison on it.
struct Only<'a> {
    model: &'a Model<'a>,
    value: Option<&'a Value>,
}

impl Lookup for Only<'_> {
    fn value(&self, _key: &str) -> Option<&Value> {
        self.value
    }
    fn today(&self) -> Option<jiff::civil::Date> {
        Some(self.model.today)
    }
    fn currency(&self) -> &str {
        &self.model.plan.file.settings.currency
    }
}

impl Test {
    /// Makes a condition ready.
    pub fn of(ready: &Ready, model: &Model<'_>) -> Self {
        match ready {
            Ready::All(parts) => Self::All(parts.iter().map(|part| Self::of(part, model)).collect()),
            Ready::Any(parts) => Self::Any(parts.iter().map(|part| Self::of(part, model)).collect()),
            Ready::Compare { subject, is, to } => match subject {
                Subject::Field(key) => match model.field_by_key.get(key.as_str()) {
                    Some(field) => Self::on(ready, *is, *field, model),
                    None => Self::Open { field: None },
                },
                Subject::Context(name) => match model.circumstances.iter().position(|known| known == name) {
                    Some(place) => Self::on(ready, *is, model.plan.file.fields.len() + place, model),
                    None => Self::Open { field: None },
                },
                Subject::Band(None) => {
                    let texts = to
                        .iter()
                        .filter_map(|to| if let Comparand::Text(text) = to { Some(text.clone()) } else { None });
                    Self::Band(*is, texts.collect())
                }
                Subject::Score(None) => Self::Score(ready.clone()),
                Subject::Band(Some(_)) | Subject::Score(Some(_)) | Subject::Settled => Self::Open { field: None },
            },
        }
    }

    fn on(ready: &Ready, is: Operator, field: usize, model: &Model<'_>) -> Self {
        let cells = &model.cells[field];
        let loose = model.loose[field];
        match is {
            Operator::IsMissing if !loose => return Self::Cells { field, yes: MISSING, no: cells.known() },
            Operator::IsKnown if !loose => return Self::Cells { field, yes: cells.known(), no: MISSING },
            _ if loose || cells.blurred => return Self::Open { field: (!loose).then_some(field) },
            _ => {}
        }
        let (mut yes, mut no) = (0, 0);
        for cell in each(cells.known()) {
            let made_up = Value::text("\u{1}");
            let value = cells.value(cell).unwrap_or(&made_up);
            let context = Context::default();
            let only = Only { model, value: Some(value) };
            let truth = match ready {
                Ready::Compare { is, to, .. } => {
                    // The subject is looked up by any key: only its value matters.
                    let plain = Ready::Compare { subject: Subject::Field(String::new()), is: *is, to: to.clone() };
                    let around = Circumstances { context: &context, said_country: None, clock: None };
                    plain.decide(Facts { lookup: &only, scores: &Scored::default(), around })
                }
                Ready::All(_) | Ready::Any(_) => Truth::Unknown,
            };
            match truth {
                Truth::True => yes |= 1 << cell,
                Truth::False => no |= 1 << cell,
                Truth::Unknown => {}
            }
        }
        Self::Cells { field, yes, no }
    }

    /// Which truths are possible where the fields have these cells, each field by itself.
    pub fn truths(&self, cells: &[Mask], filed: Option<&Filed>) -> Truths {
        match self {
            Self::All(parts) => join(parts.iter().map(|part| part.truths(cells, filed)), FAILS, HOLDS),
            Self::Any(parts) => join(parts.iter().map(|part| part.truths(cells, filed)), HOLDS, FAILS),
            Self::Cells { field, yes, no } => {
                let cells = cells[*field];
                let bit = |there: bool, truth| if there { truth } else { 0 };
                bit(cells & yes != 0, HOLDS) | bit(cells & no != 0, FAILS) | bit(cells & !(yes | no) != 0, UNKNOWN)
            }
            Self::Open { field: None } => HOLDS | FAILS | UNKNOWN,
            Self::Open { field: Some(field) } => {
                let cells = cells[*field];
                (if cells & !MISSING != 0 { HOLDS | FAILS } else { 0 })
                    | (if cells & MISSING != 0 { UNKNOWN } else { 0 })
            }
            Self::Band(is, to) => match filed {
                Some(filed) => band(*is, to, filed.band.as_deref()),
                None => HOLDS | FAILS | UNKNOWN,
            },
            Self::Score(ready) => filed.map_or(HOLDS | FAILS | UNKNOWN, |filed| points(ready, filed)),
        }
    }

    /// Cuts sets of cells into those for which it holds and those for which it does not; where it may go either way,
    /// a piece stands in both.
    pub fn split(&self, cells: &[Mask], filed: Option<&Filed>) -> (Vec<Vec<Mask>>, Vec<Vec<Mask>>) {
        let (mut holds, mut fails) = (Vec::new(), Vec::new());
        let mut todo = vec![cells.to_vec()];
        while let Some(piece) = todo.pop() {
            let truths = self.truths(&piece, filed);
            if truths & HOLDS == 0 {
                fails.push(piece);
            } else if truths == HOLDS {
                holds.push(piece);
            } else if let Some((field, groups)) =
                self.cut(&piece).filter(|_| holds.len() + fails.len() + todo.len() < MOST_PIECES)
            {
                for group in groups.into_iter().filter(|group| *group != 0) {
                    let mut part = piece.clone();
                    part[field] = group;
                    todo.push(part);
                }
            } else {
                holds.push(piece.clone());
                fails.push(piece);
            }
        }
        (union(holds), union(fails))
    }

    /// The first comparison that the cells do not decide: its field and the groups it makes.
    fn cut(&self, cells: &[Mask]) -> Option<(usize, [Mask; 3])> {
        match self {
            Self::All(parts) | Self::Any(parts) => parts.iter().find_map(|part| part.cut(cells)),
            Self::Cells { field, yes, no } => {
                let mask = cells[*field];
                let groups = [mask & yes, mask & no, mask & !(yes | no)];
                (groups.iter().filter(|group| **group != 0).count() > 1).then_some((*field, groups))
            }
            Self::Open { .. } | Self::Band(..) | Self::Score(_) => None,
        }
    }

    /// Calls `visit` for every field it reads.
    pub fn each_field(&self, visit: &mut impl FnMut(usize)) {
        match self {
            Self::All(parts) | Self::Any(parts) => parts.iter().for_each(|part| part.each_field(visit)),
            Self::Cells { field, .. } | Self::Open { field: Some(field) } => visit(*field),
            Self::Open { field: None } | Self::Band(..) | Self::Score(_) => {}
        }
    }
}

fn join(parts: impl Iterator<Item = Truths>, decides: Truths, otherwise: Truths) -> Truths {
    let (mut any_decides, mut all_otherwise, mut any_unknown, mut all_undecided) = (false, true, false, true);
    for truths in parts {
        any_decides |= truths & decides != 0;
        all_otherwise &= truths & otherwise != 0;
        any_unknown |= truths & UNKNOWN != 0;
        all_undecided &= truths & (otherwise | UNKNOWN) != 0;
    }
    (if any_decides { decides } else { 0 })
        | (if all_otherwise { otherwise } else { 0 })
        | (if any_unknown && all_undecided { UNKNOWN } else { 0 })
}

fn band(is: Operator, to: &[String], band: Option<&str>) -> Truths {
    let truth = |holds: bool| if holds { HOLDS } else { FAILS };
    let Some(band) = band.map(str::to_lowercase) else {
        return match is {
            Operator::IsMissing => HOLDS,
            Operator::IsKnown => FAILS,
            _ => UNKNOWN,
        };
    };
    match is {
        Operator::IsMissing => FAILS,
        Operator::IsKnown => HOLDS,
        Operator::Is | Operator::IsOneOf => truth(to.contains(&band)),
        Operator::IsNot | Operator::IsNoneOf => truth(!to.contains(&band)),
        Operator::Contains => truth(to.first().is_some_and(|to| band.contains(to))),
        _ => HOLDS | FAILS,
    }
}

fn points(ready: &Ready, filed: &Filed) -> Truths {
    let Ready::Compare { to, .. } = ready else { return HOLDS | FAILS };
    let mut at = vec![filed.low, filed.high];
    for to in to {
        if let Comparand::Number(number) = to
            && let Ok(number) = i64::try_from(number.floor().mantissa())
        {
            at.extend([number - 1, number, number + 1]);
        }
    }
    let context = Context::default();
    let nothing = lumbo_formula::PlainLookup::default();
    let around = Circumstances { context: &context, said_country: None, clock: None };
    at.into_iter()
        .filter(|points| (filed.low..=filed.high).contains(points))
        .map(|points| {
            match ready.decide(Facts { lookup: &nothing, scores: &Scored { points: Some(points), band: None }, around })
            {
                Truth::True => HOLDS,
                Truth::False => FAILS,
                Truth::Unknown => UNKNOWN,
            }
        })
        .fold(0, |all, one| all | one)
}

/// Puts pieces together that differ in one field only.
pub(crate) fn union(mut pieces: Vec<Vec<Mask>>) -> Vec<Vec<Mask>> {
    let mut out: Vec<Vec<Mask>> = Vec::new();
    if pieces.len() > 64 {
        return pieces;
    }
    while let Some(mut piece) = pieces.pop() {
        while let Some(place) = out.iter().position(|other| differing(other, &piece).is_some()) {
            let other = out.swap_remove(place);
            piece.iter_mut().zip(other).for_each(|(mask, other)| *mask |= other);
        }
        out.push(piece);
    }
    out
}

/// How many fields differ, where it is one at most.
pub(crate) fn differing(one: &[Mask], other: &[Mask]) -> Option<usize> {
    let count = one.iter().zip(other).filter(|(one, other)| one != other).take(2).count();
    (count < 2).then_some(count)
}
