//! Where a field is asked, worked out, shown, compared, scored and routed.

use std::collections::{BTreeSet, HashMap};

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use super::Lead;
use super::Turn;
use super::references::mentioned;
use super::words::{arm_words, turn_name};
use crate::file::{Dialogue, SideTalkDoes, Text, When};
use crate::score::criterion_words;

/// How a place uses a field.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum UseKind {
    /// Asks for it.
    Asked,
    /// Works it out.
    WorkedOut,
    /// Shows it in a text.
    Shown,
    /// Decides on it.
    Compared,
    /// Computes with it.
    Computed,
    /// Gives or takes points, or the band, by it.
    Scored,
    /// Routes by it.
    Routed,
    /// The brief needs it.
    Needed,
}

/// One place that uses a field.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct Use {
    /// How.
    pub kind: UseKind,
    /// The row, as `turn:ID`, `arm:ID` or `section:ID`; or `brief`, `scoring`, `routing`, `any-time`, `opening`.
    pub at: String,
    /// The place in words.
    pub says: String,
}

/// Every place that uses the field with this key, in the order of the outline, then scoring, routing and the rest.
#[must_use]
pub fn uses(dialogue: &Dialogue, key: &str) -> Vec<Use> {
    Uses::of(dialogue, BTreeSet::from([key])).found.remove(key).unwrap_or_default()
}

/// The same for every field of the dialogue, by key; the outline is looked through once.
#[must_use]
pub fn all_uses(dialogue: &Dialogue) -> HashMap<String, Vec<Use>> {
    Uses::of(dialogue, dialogue.fields.iter().map(|field| field.key.as_str()).collect()).found
}

/// Uses of fields being collected.
struct Uses<'a> {
    dialogue: &'a Dialogue,
    known: BTreeSet<&'a str>,
    found: HashMap<String, Vec<Use>>,
}

impl<'a> Uses<'a> {
    fn of(dialogue: &'a Dialogue, known: BTreeSet<&'a str>) -> Self {
        let mut uses = Self { dialogue, known, found: HashMap::new() };
        dialogue.each_turn(&mut |_, _, turn| uses.turn(turn));
        uses.scoring();
        uses.rest();
        uses
    }

    fn put(&mut self, key: &str, kind: UseKind, at: &str, says: &str) {
        if self.known.contains(key) {
            let place = Use { kind, at: at.to_owned(), says: says.to_owned() };
            self.found.entry(key.to_owned()).or_default().push(place);
        }
    }

    /// Every field that a part refers to is used there.
    fn put_mentioned(&mut self, part: &impl Serialize, kind: UseKind, at: &str, says: &str) {
        for key in mentioned(part, &self.known) {
            self.put(&key, kind, at, says);
        }
    }

    fn turn(&mut self, turn: &Turn) {
        let at = format!("turn:{}", turn.id());
        let name = turn_name(self.dialogue, turn);
        let (asked, filled, formulas) = (turn.asks_for(), turn.fills(), turn.formulas());
        let by_option = turn.arms().iter().any(|arm| matches!(arm.when, When::Options(_)));
        for key in &asked {
            self.put(key, UseKind::Asked, &at, &name);
            if by_option {
                self.put(key, UseKind::Compared, &at, &format!("the arms of {name}"));
            }
        }
        filled.iter().for_each(|key| self.put(key, UseKind::WorkedOut, &at, &name));
        for formula in &formulas {
            self.put_mentioned(&serde_json::json!({ "formula": formula }), UseKind::Computed, &at, &name);
        }
        if formulas.is_empty() {
            let mut bare = turn.clone();
            if let Some(arms) = bare.arms_mut() {
                arms.clear();
            }
            let texts: Vec<&Text> = bare.texts().into_iter().map(|text| &*text).collect();
            let shown = mentioned(&texts, &self.known);
            shown.iter().for_each(|key| self.put(key, UseKind::Shown, &at, &name));
            for key in mentioned(&bare, &self.known) {
                if !shown.contains(&key) && !asked.contains(&key.as_str()) && !filled.contains(&key.as_str()) {
                    self.put(&key, UseKind::Computed, &at, &name);
                }
            }
        }
        for arm in turn.arms() {
            if let When::Holds(holds) = &arm.when {
                let words = arm_words(self.dialogue, turn, arm);
                self.put_mentioned(holds, UseKind::Compared, &format!("arm:{}", arm.id), &words);
            }
        }
    }

    fn scoring(&mut self) {
        let dialogue = self.dialogue;
        for card in &dialogue.scorecards {
            for dimension in &card.dimensions {
                for criterion in &dimension.criteria {
                    let words = criterion.label.clone().unwrap_or_else(|| criterion_words(dialogue, criterion));
                    let says = format!("{}: {words}", dimension.title);
                    self.put_mentioned(&criterion.gives, UseKind::Scored, "scoring", &says);
                }
            }
            for must in &card.must_haves {
                let say = || lumbo_condition::say(&must.holds, &dialogue.fields, &dialogue.language);
                let says = format!("must have: {}", must.label.clone().unwrap_or_else(say));
                self.put_mentioned(&must.holds, UseKind::Scored, "scoring", &says);
            }
            for out in &card.rule_outs {
                let says = format!("rule-out: {}", out.reason.get(&dialogue.language, &dialogue.language));
                self.put_mentioned(&out.holds, UseKind::Scored, "scoring", &says);
            }
        }
    }

    fn rest(&mut self) {
        let dialogue = self.dialogue;
        for rule in &dialogue.routing.rules {
            let goes = rule
                .table
                .as_ref()
                .map_or_else(|| format!("queue {}", rule.queue), |by| format!("territories {}", by.table));
            self.put_mentioned(&rule.holds, UseKind::Routed, "routing", &goes);
            if let Some(by) = &rule.table {
                self.put(&by.field, UseKind::Routed, "routing", &goes);
            }
        }
        let needed: BTreeSet<&String> = dialogue.brief.needs.iter().flatten().collect();
        needed.into_iter().for_each(|key| self.put(key, UseKind::Needed, "brief", "a lead must carry it"));
        self.put_mentioned(&dialogue.opening, UseKind::Shown, "opening", "the greeting");
        let does: Vec<_> = dialogue.side_talk.iter().map(|talk| &talk.does).collect();
        let offered: Vec<_> = dialogue.offers.iter().map(|offer| &offer.say).collect();
        self.put_mentioned(&(does, offered), UseKind::Shown, "any-time", "side-talk or an offer");
    }
}

/// A place that leads to a section.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct Arrival {
    /// The section it leads to.
    pub section: String,
    /// The row it leads from, as `turn:ID`, `arm:ID`, `then:ID`, or `any-time`.
    pub from: String,
    /// The row in words.
    pub says: String,
}

/// Every go-to and Visit, with the row it stands on: who comes to each section.
#[must_use]
pub fn arrivals(dialogue: &Dialogue) -> Vec<Arrival> {
    let mut out = Vec::new();
    let mut put =
        |section: &str, from: String, says: String| out.push(Arrival { section: section.to_owned(), from, says });
    dialogue.each_turn(&mut |_, _, turn| {
        match turn.leads_to() {
            Some((section, Lead::Visit)) => put(section, format!("turn:{}", turn.id()), "a Visit".into()),
            Some((section, Lead::WayOut)) => {
                put(section, format!("turn:{}", turn.id()), format!("the way out of {}", turn_name(dialogue, turn)));
            }
            None => {}
        }
        for arm in turn.arms() {
            if let crate::file::Then::GoTo(target) = &arm.then {
                put(target, format!("arm:{}", arm.id), arm_words(dialogue, turn, arm));
            }
        }
    });
    for section in &dialogue.sections {
        if let crate::file::Follow::GoTo(target) = &section.then {
            put(target, format!("then:{}", section.id), format!("the end of {}", section.title));
        }
    }
    for talk in &dialogue.side_talk {
        if let SideTalkDoes::GoTo(target) = &talk.does {
            put(target, "any-time".into(), "side-talk".into());
        }
    }
    out
}
