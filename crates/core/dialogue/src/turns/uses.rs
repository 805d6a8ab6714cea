//! Where a field is asked, worked out, shown, compared, scored and routed.

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use super::Lead;
use super::references::mentions;
use super::words::{arm_words, criterion_name, turn_name};
use crate::file::{Dialogue, SideTalkDoes, When};

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
    let mut out = Vec::new();
    let mut put = |kind, at: String, says: String| out.push(Use { kind, at, says });
    dialogue.each_turn(&mut |_, _, turn| {
        let at = format!("turn:{}", turn.id());
        let name = turn_name(dialogue, turn);
        let asks = turn.asks_for().contains(&key);
        let fills = turn.fills();
        let formulas = turn.formulas();
        if asks {
            put(UseKind::Asked, at.clone(), name.clone());
            if turn.arms().iter().any(|arm| matches!(arm.when, When::Options(_))) {
                put(UseKind::Compared, at.clone(), format!("the arms of {name}"));
            }
        }
        for _ in fills.iter().filter(|filled| **filled == key) {
            put(UseKind::WorkedOut, at.clone(), name.clone());
        }
        for formula in &formulas {
            if mentions(&serde_json::json!({ "formula": formula }), key) {
                put(UseKind::Computed, at.clone(), name.clone());
            }
        }
        if formulas.is_empty() {
            let mut bare = turn.clone();
            if let Some(arms) = bare.arms_mut() {
                arms.clear();
            }
            if bare.texts().into_iter().any(|text| mentions(&*text, key)) {
                put(UseKind::Shown, at.clone(), name.clone());
            } else if !asks && !fills.contains(&key) && mentions(&bare, key) {
                put(UseKind::Computed, at.clone(), name.clone());
            }
        }
        for arm in turn.arms() {
            if let When::Holds(holds) = &arm.when
                && mentions(holds, key)
            {
                put(UseKind::Compared, format!("arm:{}", arm.id), arm_words(dialogue, turn, arm));
            }
        }
    });
    for card in &dialogue.scorecards {
        for dimension in &card.dimensions {
            for criterion in &dimension.criteria {
                if mentions(&criterion.gives, key) {
                    put(
                        UseKind::Scored,
                        "scoring".into(),
                        format!("{}: {}", dimension.title, criterion_name(criterion)),
                    );
                }
            }
        }
        for must in card.must_haves.iter().filter(|must| mentions(&must.holds, key)) {
            put(UseKind::Scored, "scoring".into(), format!("must-have {}", must.id));
        }
        for out in card.rule_outs.iter().filter(|out| mentions(&out.holds, key)) {
            put(
                UseKind::Scored,
                "scoring".into(),
                format!("rule-out: {}", out.reason.get(&dialogue.language, &dialogue.language)),
            );
        }
    }
    for rule in dialogue.routing.rules.iter().filter(|rule| mentions(&rule.holds, key)) {
        put(UseKind::Routed, "routing".into(), format!("queue {}", rule.queue));
    }
    if dialogue.brief.needs.iter().flatten().any(|need| need == key) {
        put(UseKind::Needed, "brief".into(), "a lead must carry it".into());
    }
    if mentions(&dialogue.opening, key) {
        put(UseKind::Shown, "opening".into(), "the greeting".into());
    }
    if dialogue.side_talk.iter().any(|talk| mentions(&talk.does, key))
        || dialogue.offers.iter().any(|offer| mentions(&offer.say, key))
    {
        put(UseKind::Shown, "any-time".into(), "side-talk or an offer".into());
    }
    out
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
