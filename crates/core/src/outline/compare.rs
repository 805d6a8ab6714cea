//! Two versions of a dialogue compared as rows of the outline: what was added, taken out, reworded, led elsewhere,
//! moved; and what changed in scoring, routing, fields and the rest.

use std::collections::{BTreeMap, HashMap, HashSet};

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use super::rows::{Row, RowKind, rows};
use super::words::{arm_words, criterion_name, follow_words, then_words, turn_words};
use crate::condition;
use crate::file::{Arm, Dialogue, Gives, Scorecard, Section, Then, Turn};

/// What became of a row.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Change {
    /// Nothing.
    Same,
    /// It is new.
    Added,
    /// It is gone.
    Removed,
    /// It says something else.
    Reworded,
    /// It leads elsewhere.
    Rerouted,
    /// It gives other points.
    Rescored,
    /// It stands elsewhere and is otherwise the same.
    Moved,
    /// Something else of it changed.
    Changed,
}

/// A row of the newer version, or one that is gone, with what became of it.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct ComparedRow {
    /// What it stands for.
    pub kind: RowKind,
    /// Id of the section, turn or arm.
    pub id: String,
    /// How deep it is nested.
    pub depth: u16,
    /// The turn's kind, for turns.
    pub label: String,
    /// What became of it.
    pub change: Change,
    /// What it said before, where that differs or it is gone.
    pub before: Option<String>,
    /// What it says now; absent where it is gone.
    pub after: Option<String>,
}

/// A change beside the outline.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct OtherChange {
    /// Where: Scoring, Routing, Fields, Brief, Any time, Phrases, Tables, Opening, Settings, Outcomes, Title.
    pub part: String,
    /// What became of it.
    pub change: Change,
    /// What it was.
    pub before: Option<String>,
    /// What it is.
    pub after: Option<String>,
}

/// Two versions compared.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct Compared {
    /// Every row of the newer one, with those that are gone at their old places.
    pub rows: Vec<ComparedRow>,
    /// What changed beside the outline.
    pub others: Vec<OtherChange>,
}

/// A row with what it stands for.
struct Seen<'a> {
    dialogue: &'a Dialogue,
    row: Row,
    part: Part<'a>,
}

enum Part<'a> {
    Section(&'a Section),
    Turn(&'a Turn),
    Arm(&'a Turn, &'a Arm),
}

fn seen(dialogue: &Dialogue) -> Vec<Seen<'_>> {
    let mut turns: HashMap<&str, &Turn> = HashMap::new();
    dialogue.each_turn(&mut |_, _, turn| {
        turns.insert(turn.id(), turn);
    });
    let sections: HashMap<&str, &Section> = dialogue.sections.iter().map(|section| (section.id.as_str(), section)).collect();
    rows(dialogue)
        .into_iter()
        .filter_map(|row| {
            let part = match row.kind {
                RowKind::Section | RowKind::Then => Part::Section(sections.get(row.id.as_str())?),
                RowKind::Turn => Part::Turn(turns.get(row.id.as_str())?),
                RowKind::Arm => {
                    let turn = turns.get(row.turn.as_deref()?)?;
                    Part::Arm(turn, turn.arms().iter().find(|arm| arm.id == row.id)?)
                }
            };
            Some(Seen { dialogue, row, part })
        })
        .collect()
}

impl Seen<'_> {
    fn label(&self) -> &'static str {
        match (&self.part, self.row.kind) {
            (Part::Section(_), RowKind::Then) => "then",
            (Part::Section(_), _) => "Section",
            (Part::Turn(turn), _) => turn.kind_label(),
            (Part::Arm(..), _) => "Arm",
        }
    }

    /// What it says.
    fn words(&self) -> String {
        match (&self.part, self.row.kind) {
            (Part::Section(_), RowKind::Then) => String::new(),
            (Part::Section(section), _) => section.title.clone(),
            (Part::Turn(turn), _) => turn_words(self.dialogue, turn),
            (Part::Arm(turn, arm), _) => arm_words(self.dialogue, turn, arm),
        }
    }

    /// What it says and where it leads.
    fn full(&self) -> String {
        match (&self.part, self.row.kind) {
            (Part::Section(section), RowKind::Then) => follow_words(self.dialogue, section),
            (Part::Arm(_, arm), _) if arm.then != Then::Rejoin => format!("{} {}", self.words(), then_words(self.dialogue, &arm.then)),
            _ => self.words(),
        }
    }

    /// True where nothing of it differs; what stands inside is looked at by itself.
    fn same(&self, other: &Self) -> bool {
        match (&self.part, &other.part) {
            (Part::Section(a), Part::Section(b)) => {
                if self.row.kind == RowKind::Then {
                    a.then == b.then
                } else {
                    a.title == b.title
                }
            }
            (Part::Turn(a), Part::Turn(b)) => same_turn(a, b),
            (Part::Arm(_, a), Part::Arm(_, b)) => a.label == b.label && a.when == b.when && a.then == b.then,
            _ => false,
        }
    }

    /// True where it leads to the same.
    fn leads_as(&self, other: &Self) -> bool {
        match (&self.part, &other.part) {
            (Part::Section(a), Part::Section(b)) => self.row.kind != RowKind::Then || a.then == b.then,
            (Part::Turn(Turn::Ask(a)), Part::Turn(Turn::Ask(b))) => a.way_out == b.way_out,
            (Part::Turn(Turn::Visit(a)), Part::Turn(Turn::Visit(b))) => a.section == b.section,
            (Part::Turn(Turn::Close(a)), Part::Turn(Turn::Close(b))) => a.outcome == b.outcome,
            (Part::Arm(_, a), Part::Arm(_, b)) => a.then == b.then,
            _ => true,
        }
    }
}

/// True where two turns are the same but for their arms.
fn same_turn(a: &Turn, b: &Turn) -> bool {
    if a == b {
        return true;
    }
    let bare = |turn: &Turn| {
        let mut bare = turn.clone();
        if let Some(arms) = bare.arms_mut() {
            arms.clear();
        }
        bare
    };
    !(a.arms().is_empty() && b.arms().is_empty()) && bare(a) == bare(b)
}

/// What a row stands in.
fn parent(row: &Row) -> String {
    match row.kind {
        RowKind::Section => "outline".to_owned(),
        RowKind::Then => format!("then {}", row.section),
        RowKind::Arm => format!("turn {}", row.turn.as_deref().unwrap_or_default()),
        RowKind::Turn => row.arm.as_deref().map_or_else(|| format!("section {}", row.section), |arm| format!("arm {arm}")),
    }
}

/// A row that is still there: its old place, and its kind and id.
type Kept<'a> = (usize, (RowKind, &'a str));

/// Rows of both versions that stand elsewhere: in something else, or out of the longest run that kept its order.
fn moved<'a>(before: &[Seen<'_>], after: &'a [Seen<'_>]) -> HashSet<(RowKind, &'a str)> {
    let stood: HashMap<(RowKind, &str), (usize, String)> =
        before.iter().enumerate().map(|(place, seen)| ((seen.row.kind, seen.row.id.as_str()), (place, parent(&seen.row)))).collect();
    let mut out = HashSet::new();
    let mut runs: BTreeMap<String, Vec<Kept<'a>>> = BTreeMap::new();
    for seen in after {
        let key = (seen.row.kind, seen.row.id.as_str());
        let Some((place, was)) = stood.get(&key) else { continue };
        let is = parent(&seen.row);
        if *was == is {
            runs.entry(is).or_default().push((*place, key));
        } else {
            out.insert(key);
        }
    }
    for run in runs.into_values() {
        let kept = longest_rising(&run.iter().map(|(place, _)| *place).collect::<Vec<_>>());
        out.extend(run.iter().enumerate().filter(|(at, _)| !kept.contains(at)).map(|(_, (_, key))| *key));
    }
    out
}

/// Indices of a longest rising subsequence (patience sorting).
fn longest_rising(list: &[usize]) -> HashSet<usize> {
    let mut tails: Vec<usize> = Vec::new();
    let mut previous: Vec<Option<usize>> = Vec::with_capacity(list.len());
    for (at, value) in list.iter().enumerate() {
        let pile = tails.partition_point(|tail| list[*tail] < *value);
        previous.push(pile.checked_sub(1).map(|below| tails[below]));
        if pile == tails.len() {
            tails.push(at);
        } else {
            tails[pile] = at;
        }
    }
    let mut out = HashSet::new();
    let mut at = tails.last().copied();
    while let Some(here) = at {
        out.insert(here);
        at = previous[here];
    }
    out
}

/// Compares an older with a newer version.
#[must_use]
pub fn compare(old: &Dialogue, new: &Dialogue) -> Compared {
    Compared { rows: compare_rows(old, new, true), others: others(old, new) }
}

/// Compares the outlines; rows without a change have words only where they are asked for.
pub(super) fn compare_rows(old: &Dialogue, new: &Dialogue, all_words: bool) -> Vec<ComparedRow> {
    let (before, after) = (seen(old), seen(new));
    let known: HashMap<(RowKind, &str), &Seen<'_>> = before.iter().map(|seen| ((seen.row.kind, seen.row.id.as_str()), seen)).collect();
    let kept: HashSet<(RowKind, &str)> = after.iter().map(|seen| (seen.row.kind, seen.row.id.as_str())).collect();
    let moved = moved(&before, &after);
    // Rows that are gone stand after the last row before them that is still there.
    let mut gone: BTreeMap<Option<(RowKind, String)>, Vec<&Seen<'_>>> = BTreeMap::new();
    let mut anchor: Option<(RowKind, String)> = None;
    for seen in &before {
        let key = (seen.row.kind, seen.row.id.as_str());
        if kept.contains(&key) {
            anchor = Some((seen.row.kind, seen.row.id.clone()));
        } else {
            gone.entry(anchor.clone()).or_default().push(seen);
        }
    }
    let mut out = Vec::new();
    let removed = |seen: &&Seen<'_>| ComparedRow {
        kind: seen.row.kind,
        id: seen.row.id.clone(),
        depth: seen.row.depth,
        label: seen.label().to_owned(),
        change: Change::Removed,
        before: Some(seen.full()),
        after: None,
    };
    out.extend(gone.get(&None).into_iter().flatten().map(removed));
    for seen in &after {
        let key = (seen.row.kind, seen.row.id.as_str());
        let was = known.get(&key).copied();
        let change = match was {
            None => Change::Added,
            Some(was) if !was.same(seen) => {
                if !was.leads_as(seen) {
                    Change::Rerouted
                } else if was.words() != seen.words() {
                    Change::Reworded
                } else {
                    Change::Changed
                }
            }
            Some(was) if rescored(old, new, &was.part, &seen.part) => Change::Rescored,
            Some(_) if moved.contains(&key) => Change::Moved,
            Some(_) => Change::Same,
        };
        out.push(ComparedRow {
            kind: seen.row.kind,
            id: seen.row.id.clone(),
            depth: seen.row.depth,
            label: seen.label().to_owned(),
            change,
            before: was.filter(|_| !matches!(change, Change::Same | Change::Moved)).map(Seen::full),
            after: (all_words || change != Change::Same).then(|| seen.full()),
        });
        out.extend(gone.get(&Some((seen.row.kind, seen.row.id.clone()))).into_iter().flatten().map(removed));
    }
    out
}

/// True where an option arm's answer is worth other points by plain conditions.
fn rescored(old: &Dialogue, new: &Dialogue, was: &Part<'_>, is: &Part<'_>) -> bool {
    let (Part::Arm(Turn::Ask(old_ask), _), Part::Arm(Turn::Ask(ask), arm)) = (was, is) else { return false };
    let crate::file::When::Options(keys) = &arm.when else { return false };
    keys.iter().any(|key| option_points(old, &old_ask.field, key) != option_points(new, &ask.field, key))
}

/// Points that the first scorecard gives for one option by plain conditions.
fn option_points(dialogue: &Dialogue, field: &str, option: &str) -> i64 {
    let criteria = dialogue.scorecards.first().into_iter().flat_map(|card| &card.dimensions).flat_map(|dimension| &dimension.criteria);
    criteria
        .filter_map(|criterion| match &criterion.gives {
            Gives::When { holds: crate::file::Condition::Compare(compare), points } if compare.what == field && compare.is == crate::file::Operator::Is => {
                compare.to.as_ref().filter(|to| to.values().iter().any(|value| value == option)).map(|_| *points)
            }
            _ => None,
        })
        .sum()
}

/// Named things of both versions, compared by name.
fn listed(part: &str, change: Change, old: &[(String, String)], new: &[(String, String)], out: &mut Vec<OtherChange>) {
    for (name, words) in new {
        let was = old.iter().find(|(known, _)| known == name);
        match was {
            None => out.push(OtherChange { part: part.into(), change: Change::Added, before: None, after: Some(words.clone()) }),
            Some((_, before)) if before != words => {
                out.push(OtherChange { part: part.into(), change, before: Some(before.clone()), after: Some(words.clone()) });
            }
            Some(_) => {}
        }
    }
    for (_, words) in old.iter().filter(|(name, _)| !new.iter().any(|(known, _)| known == name)) {
        out.push(OtherChange { part: part.into(), change: Change::Removed, before: Some(words.clone()), after: None });
    }
}

fn json_words(value: &impl Serialize) -> String {
    serde_json::to_string(value).unwrap_or_default()
}

fn scoring(dialogue: &Dialogue) -> Vec<(String, String)> {
    let say = |holds| condition::say(holds, &dialogue.fields, &dialogue.language);
    let mut out = Vec::new();
    for Scorecard { dimensions, must_haves, rule_outs, bands, .. } in &dialogue.scorecards {
        for dimension in dimensions {
            let ends = format!("{}: floor {:?}, ceiling {:?}", dimension.title, dimension.floor, dimension.ceiling)
                .replace("Some(", "")
                .replace(')', "")
                .replace("None", "none");
            out.push((format!("dimension {}", dimension.id), ends));
            for criterion in &dimension.criteria {
                let gives = match &criterion.gives {
                    Gives::When { holds, points } => format!("{points:+} when {}", say(holds)),
                    other => json_words(other),
                };
                out.push((format!("criterion {}", criterion.id), format!("{}: {gives}", criterion_name(criterion))));
            }
        }
        out.extend(must_haves.iter().map(|must| (format!("must {}", must.id), format!("must have: {}, or the band stops at {}", say(&must.holds), must.cap))));
        out.extend(rule_outs.iter().map(|rule_out| {
            (
                format!("out {}", rule_out.id),
                format!("rules out when {}: {}", say(&rule_out.holds), rule_out.reason.get(&dialogue.language, &dialogue.language)),
            )
        }));
        out.extend(bands.iter().map(|band| {
            let from = band.from.map_or_else(String::new, |from| format!(" from {from}"));
            (format!("band {}", band.id), format!("{}{from}", band.label))
        }));
    }
    out
}

fn routing(dialogue: &Dialogue) -> Vec<(String, String)> {
    let say = |holds| condition::say(holds, &dialogue.fields, &dialogue.language);
    let rules = dialogue.routing.rules.iter().enumerate();
    let mut out: Vec<_> = rules.map(|(place, rule)| (rule.id.clone(), format!("{}. {} → {}", place + 1, say(&rule.holds), rule.queue))).collect();
    out.extend(dialogue.routing.otherwise.iter().map(|queue| ("otherwise".to_owned(), format!("otherwise → {queue}"))));
    out
}

fn fields(dialogue: &Dialogue) -> Vec<(String, String)> {
    dialogue
        .fields
        .iter()
        .map(|field| {
            let options: Vec<&str> = field.options.iter().map(|option| option.label.get(&dialogue.language, &dialogue.language)).collect();
            let options = if options.is_empty() { String::new() } else { format!(" ({})", options.join(", ")) };
            let rules: Vec<&str> = field.rules.iter().map(crate::file::Rule::key).collect();
            let rules = if rules.is_empty() { String::new() } else { format!(", {}", rules.join(", ").replace('_', " ")) };
            (field.id.clone(), format!("{}, {}{options}{rules}", field.label, field.kind.name().replace('_', " ")))
        })
        .collect()
}

fn others(old: &Dialogue, new: &Dialogue) -> Vec<OtherChange> {
    let mut out = Vec::new();
    let text = |dialogue: &Dialogue, text: &crate::file::Text| super::words::text_words(dialogue, text);
    let one = |words: String| vec![("it".to_owned(), words)];
    listed("Title", Change::Reworded, &one(old.title.clone()), &one(new.title.clone()), &mut out);
    let opening = |dialogue: &Dialogue| one(format!("{} [{}]", text(dialogue, &dialogue.opening.say), text(dialogue, &dialogue.opening.button)));
    listed("Opening", Change::Reworded, &opening(old), &opening(new), &mut out);
    listed("Scoring", Change::Rescored, &scoring(old), &scoring(new), &mut out);
    listed("Routing", Change::Rerouted, &routing(old), &routing(new), &mut out);
    listed("Fields", Change::Changed, &fields(old), &fields(new), &mut out);
    let brief = |dialogue: &Dialogue| {
        one(format!(
            "needs {}; fit: {}; taken by: {}",
            dialogue.brief.needs.iter().map(|need| need.join(" or ")).collect::<Vec<_>>().join(", "),
            dialogue.brief.fit,
            dialogue.brief.taker
        ))
    };
    listed("Brief", Change::Changed, &brief(old), &brief(new), &mut out);
    let outcomes = |dialogue: &Dialogue| dialogue.outcomes.iter().map(|outcome| (outcome.id.clone(), outcome.label.clone())).collect::<Vec<_>>();
    listed("Outcomes", Change::Changed, &outcomes(old), &outcomes(new), &mut out);
    let any_time = |dialogue: &Dialogue| {
        let talk = dialogue.side_talk.iter().map(|talk| {
            let phrases: Vec<String> = talk.phrases.values().flatten().map(|phrase| format!("“{phrase}”")).collect();
            let does = match &talk.does {
                crate::file::SideTalkDoes::Answer(parts) => super::words::parts_words(dialogue, parts),
                crate::file::SideTalkDoes::GoTo(section) => format!("→ {}", super::words::section_name(dialogue, section)),
            };
            (talk.id.clone(), if phrases.is_empty() { format!("no phrase yet: {does}") } else { format!("{}: {does}", phrases.join(", ")) })
        });
        talk.chain(dialogue.offers.iter().map(|offer| (offer.id.clone(), super::words::parts_words(dialogue, &offer.say)))).collect::<Vec<_>>()
    };
    listed("Any time", Change::Reworded, &any_time(old), &any_time(new), &mut out);
    let phrases = |dialogue: &Dialogue| dialogue.phrases.iter().map(|(key, words)| (key.clone(), text(dialogue, words))).collect::<Vec<_>>();
    listed("Phrases", Change::Reworded, &phrases(old), &phrases(new), &mut out);
    let tables = |dialogue: &Dialogue| {
        dialogue
            .tables
            .iter()
            .map(|table| {
                (
                    table.key.clone(),
                    format!(
                        "{}: {} row{} of {}; {}",
                        table.key,
                        table.rows.len(),
                        if table.rows.len() == 1 { "" } else { "s" },
                        table.columns.join(", "),
                        table.rows.iter().map(|row| row.join(", ")).collect::<Vec<_>>().join("; ")
                    ),
                )
            })
            .collect::<Vec<_>>()
    };
    listed("Tables", Change::Changed, &tables(old), &tables(new), &mut out);
    listed("Settings", Change::Changed, &one(json_words(&old.settings)), &one(json_words(&new.settings)), &mut out);
    out
}

#[cfg(test)]
mod tests {
    use serde_json::json;

    use super::*;
    use crate::outline::apply;

    fn demo() -> Dialogue {
        crate::file::load(include_str!("../../../../demo/storage-enquiry.json")).unwrap()
    }

    fn changed(edits: serde_json::Value) -> Vec<(Change, String, Option<String>, Option<String>)> {
        let mut new = demo();
        for edit in serde_json::from_value::<Vec<crate::outline::Edit>>(edits).unwrap() {
            apply(&mut new, edit).unwrap();
        }
        let compared = compare(&demo(), &new);
        assert_eq!(compared.rows.iter().filter(|row| row.change != Change::Removed).count(), rows(&new).len());
        let rows = compared.rows.into_iter().filter(|row| row.change != Change::Same).map(|row| (row.change, row.id, row.before, row.after));
        rows.chain(compared.others.into_iter().map(|other| (other.change, other.part, other.before, other.after))).collect()
    }

    #[test]
    fn the_same_has_no_change() {
        assert_eq!(changed(json!([])), []);
    }

    #[test]
    fn each_sort_of_change_is_told_apart() {
        let tell = json!({"kind": "tell", "id": "t_new", "say": [{"line": {"text": {"en": "Hello"}}}]});
        let found = changed(json!([{"op": "insert_turn", "at": {"parent": {"section": "load"}, "index": 1}, "turn": tell}]));
        assert_eq!(found, [(Change::Added, "t_new".into(), None, Some("Hello".into()))], "a turn put in between moves nothing");
        let found = changed(json!([{"op": "remove_turn", "id": "t_blast"}]));
        assert_eq!((found.len(), found[0].0, found[0].1.as_str()), (1, Change::Removed, "t_blast"));
        let found = changed(json!([{"op": "change_section", "id": "timing", "title": "Timing", "then": {"go_to": "small"}}]));
        assert_eq!((found[0].0, found[0].1.as_str()), (Change::Rerouted, "timing"));
        let found = changed(json!([{"op": "move_turn", "id": "t_load", "to": {"parent": {"section": "timing"}, "index": 0}}]));
        assert_eq!((found.len(), found[0].0, found[0].1.as_str()), (1, Change::Moved, "t_load"));
        let found = changed(json!([{"op": "set_title", "title": "Other"}, {"op": "set_routing", "routing": {"otherwise": "saltwick"}}]));
        assert_eq!(found[0], (Change::Reworded, "Title".into(), Some("Storage enquiry".into()), Some("Other".into())));
        assert!(found.iter().any(|row| row.0 == Change::Removed && row.1 == "Routing"));
    }

    #[test]
    fn another_score_marks_the_option_and_the_criterion() {
        let mut new = demo();
        let card = &mut new.scorecards[0];
        for criterion in card.dimensions.iter_mut().flat_map(|dimension| &mut dimension.criteria) {
            if let Gives::When { points, holds: crate::file::Condition::Compare(compare) } = &mut criterion.gives
                && compare.what == "temperature"
            {
                *points += 1;
            }
        }
        let compared = compare(&demo(), &new);
        assert!(compared.rows.iter().any(|row| row.change == Change::Rescored && row.id == "a_frozen"), "{compared:#?}");
        assert!(compared.others.iter().any(|other| other.part == "Scoring" && other.change == Change::Rescored));
    }
}
