//! Scorecards: points by criterion, held between a dimension's floor and ceiling; must-haves that cap the band;
//! rule-outs; bands.
//!
//! Total = sum over dimensions of clamp(sum of its criteria's points, floor, ceiling). A criterion that cannot be told
//! because answers are missing gives no points and is listed as unknown.

mod differs;
mod left;
mod words;

pub use differs::{Differs, differs};
pub use words::{criterion_words, row_words, table_field};

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use lumbo_condition as condition;

use crate::file::{Field, Gives, MustHave, Points, Scorecard, Table};
use lumbo_condition::{Facts, Truth};
use lumbo_formula as formula;
use lumbo_formula::{Formula, Names};
use lumbo_value::Value;

/// A scorecard with its conditions and formulas parsed.
#[derive(Debug, Clone)]
pub struct Card {
    /// As written.
    pub file: Scorecard,
    dimensions: Vec<Vec<ReadyCriterion>>,
    must_haves: Vec<condition::Ready>,
    rule_outs: Vec<condition::Ready>,
    labels: Vec<Vec<String>>,
    must_labels: Vec<String>,
    out_labels: Vec<String>,
    /// Keys of the fields that criteria read.
    reads: Vec<String>,
}

/// How a criterion gives points, made ready.
#[derive(Debug, Clone)]
pub enum ReadyCriterion {
    /// Points where a condition holds.
    When(condition::Ready, Points),
    /// A field by key, and the rows of its table.
    Table(String, Vec<(condition::Ready, Points)>),
    /// A formula that gives points.
    Formula(Formula),
    /// Could not be read; a check says why.
    Broken,
}

/// A part of a scorecard that cannot be read: the id of the part, and a sentence.
pub type Fault = (String, String);

/// The whole score of a lead, with its reasons.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct ScoreResult {
    /// The scorecard's id.
    pub scorecard: String,
    /// The total, whole points.
    pub total: Points,
    /// The band's id; absent where a rule-out holds.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub band: Option<String>,
    /// The band's name; "Ruled out" where a rule-out holds.
    pub band_label: String,
    /// The band that the total alone would give.
    pub band_by_points: String,
    /// The threshold of the band, where it has one.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub band_from: Option<Points>,
    /// Points per dimension.
    pub dimensions: Vec<DimensionResult>,
    /// Must-haves that do not hold.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub caps: Vec<Cap>,
    /// Rule-outs that hold.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub rule_outs: Vec<RuledOut>,
    /// Ids of criteria that could not be told.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub unknown: Vec<String>,
}

/// A total and its band.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Placed {
    /// The total, whole points.
    pub total: Points,
    /// Place of the band from the lowest, 0; absent where a rule-out holds.
    pub band: Option<usize>,
}

/// A dimension's points.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct DimensionResult {
    /// Its id.
    pub id: String,
    /// Its title.
    pub title: String,
    /// Sum of its criteria's points.
    pub sum: Points,
    /// What of it counts, between floor and ceiling.
    pub counts: Points,
    /// The least it can count, where it has a floor.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub floor: Option<Points>,
    /// The most it can count, where it has a ceiling.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub ceiling: Option<Points>,
    /// Its criteria.
    pub criteria: Vec<CriterionResult>,
}

/// A criterion's points.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct CriterionResult {
    /// Its id.
    pub id: String,
    /// Its words.
    pub label: String,
    /// Its points; zero where it does not hold.
    pub points: Points,
    /// True where it could not be told.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub unknown: bool,
}

/// A must-have that does not hold.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct Cap {
    /// Its id.
    pub id: String,
    /// Its words.
    pub label: String,
    /// The highest band without it.
    pub cap: String,
    /// True where it lowered the band.
    pub lowered: bool,
    /// True where answers are missing, so that it is open rather than failed.
    pub open: bool,
}

/// A rule-out that holds.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct RuledOut {
    /// Its id.
    pub id: String,
    /// Its words.
    pub label: String,
    /// Why, for the rep.
    pub reason: String,
}

impl Card {
    /// Parses a scorecard; parts that cannot be read give no points and are listed.
    #[must_use]
    pub fn new(file: &Scorecard, fields: &[Field], tables: &[Table], language: &str) -> (Self, Vec<Fault>) {
        let mut faults = Vec::new();
        let mut card = Self {
            file: file.clone(),
            dimensions: Vec::new(),
            must_haves: Vec::new(),
            rule_outs: Vec::new(),
            labels: Vec::new(),
            must_labels: Vec::new(),
            out_labels: Vec::new(),
            reads: Vec::new(),
        };
        let never = || condition::Ready::Any(Vec::new());
        for dimension in &file.dimensions {
            let mut labels = Vec::new();
            let mut ready = Vec::new();
            for criterion in &dimension.criteria {
                let (one, said) = criterion_ready(&criterion.gives, fields, tables, language).unwrap_or_else(|says| {
                    faults.push((criterion.id.clone(), says));
                    (ReadyCriterion::Broken, criterion.id.clone())
                });
                labels.push(criterion.label.clone().unwrap_or(said));
                ready.push(one);
            }
            card.labels.push(labels);
            card.dimensions.push(ready);
        }
        let mut parse = |id: &str, holds: &crate::file::Condition| {
            reads_score(holds).and_then(|()| condition::ready(holds, fields)).unwrap_or_else(|says| {
                faults.push((id.to_owned(), says));
                never()
            })
        };
        for must in &file.must_haves {
            card.must_haves.push(parse(&must.id, &must.holds));
            card.must_labels.push(must.label.clone().unwrap_or_else(|| condition::say(&must.holds, fields, language)));
        }
        for out in &file.rule_outs {
            card.rule_outs.push(parse(&out.id, &out.holds));
            card.out_labels.push(out.label.clone().unwrap_or_else(|| condition::say(&out.holds, fields, language)));
        }
        let mut reads = std::collections::BTreeSet::new();
        card.dimensions.iter().flatten().for_each(|criterion| {
            criterion.each_field(&mut |key| {
                reads.insert(key.to_owned());
            });
        });
        card.reads = reads.into_iter().collect();
        (card, faults)
    }

    /// Its criteria made ready, dimension by dimension in the order of the file.
    #[must_use]
    pub fn criteria(&self) -> &[Vec<ReadyCriterion>] {
        &self.dimensions
    }

    /// Its must-haves made ready, in the order of the file.
    #[must_use]
    pub fn must_haves(&self) -> &[condition::Ready] {
        &self.must_haves
    }

    /// Its rule-outs made ready, in the order of the file.
    #[must_use]
    pub fn rule_outs(&self) -> &[condition::Ready] {
        &self.rule_outs
    }

    /// True where the total can depend on a field; an answer to any other leaves it as it is.
    #[must_use]
    pub fn reads(&self, key: &str) -> bool {
        self.reads.iter().any(|known| known == key)
    }

    /// The total alone, for the points before and after an answer.
    #[must_use]
    pub fn total(&self, facts: Facts<'_>) -> Points {
        self.file
            .dimensions
            .iter()
            .zip(&self.dimensions)
            .map(|(file, criteria)| {
                clamp(criteria.iter().map(|one| one.points(facts).0).sum(), file.floor, file.ceiling)
            })
            .sum()
    }

    /// The total and the band alone, by the same rules as the whole result; no band where a rule-out holds.
    #[must_use]
    pub fn placed(&self, facts: Facts<'_>) -> Placed {
        let total = self.total(facts);
        let band = (!self.rule_outs.iter().any(|ready| ready.decide(facts).holds())).then(|| {
            let missed =
                self.file.must_haves.iter().zip(&self.must_haves).filter(|(_, ready)| !ready.decide(facts).holds());
            missed.map(|(must, _)| self.cap(must)).fold(self.band_index(total), usize::min)
        });
        Placed { total, band }
    }

    /// Place of the highest band without a must-have.
    fn cap(&self, must: &MustHave) -> usize {
        self.file.bands.iter().position(|band| band.id == must.cap).unwrap_or(0)
    }

    /// The whole result, with reasons.
    #[must_use]
    pub fn score(&self, facts: Facts<'_>, language: &str) -> ScoreResult {
        let mut unknown = Vec::new();
        let mut dimensions = Vec::new();
        for ((file, criteria), labels) in self.file.dimensions.iter().zip(&self.dimensions).zip(&self.labels) {
            let mut results = Vec::new();
            for ((criterion, ready), label) in file.criteria.iter().zip(criteria).zip(labels) {
                let (points, untold) = ready.points(facts);
                if untold {
                    unknown.push(criterion.id.clone());
                }
                let label = match (points, ready.words(facts)) {
                    (0, _) | (_, None) => label.clone(),
                    (_, Some(words)) => format!("{label} {words}"),
                };
                results.push(CriterionResult { id: criterion.id.clone(), label, points, unknown: untold });
            }
            let sum = results.iter().map(|result| result.points).sum();
            let counts = clamp(sum, file.floor, file.ceiling);
            dimensions.push(DimensionResult {
                id: file.id.clone(),
                title: file.title.clone(),
                sum,
                counts,
                floor: file.floor,
                ceiling: file.ceiling,
                criteria: results,
            });
        }
        let total = dimensions.iter().map(|dimension| dimension.counts).sum();
        let by_points = self.band_index(total);
        let mut index = by_points;
        let mut caps = Vec::new();
        for ((must, ready), label) in self.file.must_haves.iter().zip(&self.must_haves).zip(&self.must_labels) {
            let truth = ready.decide(facts);
            if truth.holds() {
                continue;
            }
            let cap = self.cap(must);
            let name = self.file.bands.get(cap).map_or_else(|| must.cap.clone(), |band| band.label.clone());
            caps.push(Cap {
                id: must.id.clone(),
                label: label.clone(),
                cap: name,
                lowered: cap < by_points,
                open: truth == Truth::Unknown,
            });
            index = index.min(cap);
        }
        let rule_outs: Vec<RuledOut> = self
            .file
            .rule_outs
            .iter()
            .zip(&self.rule_outs)
            .zip(&self.out_labels)
            .filter(|((_, ready), _)| ready.decide(facts).holds())
            .map(|((out, _), label)| RuledOut {
                id: out.id.clone(),
                label: label.clone(),
                reason: out.reason.get(language, language).to_owned(),
            })
            .collect();
        let band = self.file.bands.get(index).filter(|_| rule_outs.is_empty());
        ScoreResult {
            scorecard: self.file.id.clone(),
            total,
            band: band.map(|band| band.id.clone()),
            band_label: band.map_or_else(
                || if rule_outs.is_empty() { String::new() } else { "Ruled out".to_owned() },
                |band| band.label.clone(),
            ),
            band_by_points: self.file.bands.get(by_points).map(|band| band.id.clone()).unwrap_or_default(),
            band_from: band.and_then(|band| band.from),
            dimensions,
            caps,
            rule_outs,
            unknown,
        }
    }

    /// Place of the highest band whose threshold the total reaches: bands are half-open from their threshold up.
    #[must_use]
    pub fn band_index(&self, total: Points) -> usize {
        self.file.bands.iter().rposition(|band| band.from.is_none_or(|from| total >= from)).unwrap_or(0)
    }
}

/// The least and most that a scorecard can give, whatever is answered: the ends of the scale a score is drawn on. A
/// formula counts only through its dimension's floor and ceiling.
#[must_use]
pub fn bounds(card: &Scorecard) -> (Points, Points) {
    let ends = |gives: &Gives| match gives {
        Gives::When { points, .. } => ((*points).min(0), (*points).max(0)),
        Gives::Table { rows, .. } => (
            rows.iter().map(|row| row.points).min().unwrap_or(0).min(0),
            rows.iter().map(|row| row.points).max().unwrap_or(0).max(0),
        ),
        Gives::Formula(_) => (0, 0),
    };
    card.dimensions.iter().fold((0, 0), |(least, most), dimension| {
        let formula = dimension.criteria.iter().any(|criterion| matches!(criterion.gives, Gives::Formula(_)));
        let (low, high) = dimension
            .criteria
            .iter()
            .map(|criterion| ends(&criterion.gives))
            .fold((0, 0), |sum, ends| (sum.0 + ends.0, sum.1 + ends.1));
        let low = if formula { dimension.floor.unwrap_or(low) } else { clamp(low, dimension.floor, dimension.ceiling) };
        let high =
            if formula { dimension.ceiling.unwrap_or(high) } else { clamp(high, dimension.floor, dimension.ceiling) };
        (least + low, most + high)
    })
}

fn clamp(sum: Points, floor: Option<Points>, ceiling: Option<Points>) -> Points {
    let sum = ceiling.map_or(sum, |ceiling| sum.min(ceiling));
    floor.map_or(sum, |floor| sum.max(floor))
}

fn reads_score(condition: &crate::file::Condition) -> Result<(), String> {
    let mut found = None;
    condition.each(&mut |comparison| {
        if ["@score", "@band", "@settled"]
            .iter()
            .any(|name| comparison.what.strip_prefix(name).is_some_and(|rest| rest.is_empty() || rest.starts_with('.')))
        {
            found = Some(comparison.what.clone());
        }
    });
    found.map_or(Ok(()), |what| Err(format!("a criterion cannot read {what}: the score would depend on itself")))
}

fn criterion_ready(
    gives: &Gives,
    fields: &[Field],
    tables: &[Table],
    language: &str,
) -> Result<(ReadyCriterion, String), String> {
    match gives {
        Gives::When { holds, points } => {
            reads_score(holds)?;
            Ok((
                ReadyCriterion::When(condition::ready(holds, fields)?, *points),
                condition::say(holds, fields, language),
            ))
        }
        Gives::Formula(text) => {
            let formula = formula::compile(text, Names { fields, tables }).map_err(|error| error.to_string())?;
            if formula.gives() != formula::Type::Number {
                return Err(format!("points are a number; this formula gives {}", formula.gives().name()));
            }
            Ok((ReadyCriterion::Formula(formula), text.clone()))
        }
        Gives::Table { field, rows } => {
            use crate::file::{Comparison, Condition, Operand, Operator};
            let label = fields
                .iter()
                .find(|known| known.key == *field)
                .map_or_else(|| field.clone(), |known| known.label.clone());
            let rows = rows
                .iter()
                .map(|row| {
                    let compare = |is, to: &String| {
                        Condition::Compare(Comparison { what: field.clone(), is, to: Some(Operand::One(to.clone())) })
                    };
                    let mut parts: Vec<Condition> = Vec::new();
                    parts.extend(row.from.as_ref().map(|from| compare(Operator::AtLeast, from)));
                    parts.extend(row.below.as_ref().map(|below| compare(Operator::LessThan, below)));
                    if !row.values.is_empty() {
                        parts.push(Condition::Compare(Comparison {
                            what: field.clone(),
                            is: Operator::IsOneOf,
                            to: Some(Operand::Many(row.values.clone())),
                        }));
                    }
                    if parts.is_empty() {
                        return Err("a row of a table of points needs from, below or values".to_owned());
                    }
                    Ok((condition::ready(&Condition::All(parts), fields)?, row.points))
                })
                .collect::<Result<_, String>>()?;
            Ok((ReadyCriterion::Table(field.clone(), rows), label))
        }
    }
}

impl ReadyCriterion {
    fn each_field(&self, visit: &mut impl FnMut(&str)) {
        let mut subjects = |condition: &condition::Ready| {
            condition.each_subject(&mut |subject| {
                if let condition::Subject::Field(key) = subject {
                    visit(key);
                }
            });
        };
        match self {
            Self::When(condition, _) => subjects(condition),
            Self::Table(_, rows) => rows.iter().for_each(|(row, _)| subjects(row)),
            Self::Formula(formula) => formula.reads().iter().for_each(|key| visit(key)),
            Self::Broken => {}
        }
    }

    /// Which row of a table the value lies in, from 0; nothing where the value is missing or there is no table.
    #[must_use]
    pub fn row(&self, facts: Facts<'_>) -> Option<Option<usize>> {
        let Self::Table(field, rows) = self else { return None };
        facts.lookup.value(field)?;
        Some(rows.iter().position(|(row, _)| row.decide(facts).holds()))
    }

    /// Points, and whether they could not be told.
    #[must_use]
    pub fn points(&self, facts: Facts<'_>) -> (Points, bool) {
        match self {
            Self::When(condition, points) => match condition.decide(facts) {
                Truth::True => (*points, false),
                Truth::False => (0, false),
                Truth::Unknown => (0, true),
            },
            Self::Table(_, rows) => match self.row(facts) {
                None => (0, true),
                Some(row) => (row.and_then(|row| rows.get(row)).map_or(0, |(_, points)| *points), false),
            },
            Self::Formula(formula) => match formula.points(facts.lookup) {
                Ok(Some(points)) => (points, false),
                Ok(None) | Err(_) => (0, true),
            },
            Self::Broken => (0, true),
        }
    }

    /// What a table found, so that a reason can say more than the field's name.
    fn words(&self, facts: Facts<'_>) -> Option<String> {
        match self {
            Self::Table(field, _) => facts.lookup.value(field).map(Value::to_string),
            _ => None,
        }
    }
}

#[cfg(test)]
mod tests;
