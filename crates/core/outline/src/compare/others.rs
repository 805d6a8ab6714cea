//! What changed beside the outline: scoring, routing, fields and the rest, each compared by name and put into words.

use std::collections::BTreeMap;

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use super::{Change, OtherChange};
use lumbo_condition as condition;
use lumbo_dialogue::file::{Dialogue, Outcome, OutcomeClass, RoutingRule, Scorecard};
use lumbo_dialogue::score::criterion_words;
use lumbo_dialogue::turns::words::{parts_words, section_name, text_words};

/// What an outcome comes to, in words.
fn class_words(class: OutcomeClass) -> &'static str {
    match class {
        OutcomeClass::Lead => "a lead",
        OutcomeClass::NotAFit => "not a fit",
        OutcomeClass::Customer => "a customer already",
        OutcomeClass::Looking => "only looking",
        OutcomeClass::Unfinished => "left before the end",
        OutcomeClass::Other => "something else",
    }
}

/// Named things of both versions, compared by name.
fn listed(part: &str, change: Change, old: &[(String, String)], new: &[(String, String)], out: &mut Vec<OtherChange>) {
    for (name, words) in new {
        let was = old.iter().find(|(known, _)| known == name);
        match was {
            None => out.push(OtherChange {
                part: part.into(),
                change: Change::Added,
                before: None,
                after: Some(words.clone()),
            }),
            Some((_, before)) if before != words => {
                out.push(OtherChange {
                    part: part.into(),
                    change,
                    before: Some(before.clone()),
                    after: Some(words.clone()),
                });
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
    for card in &dialogue.scorecards {
        let Scorecard { dimensions, must_haves, rule_outs, bands, .. } = card;
        for dimension in dimensions {
            let end = |words: &str, end: Option<i64>| end.map(|end| format!(", {words} {end}")).unwrap_or_default();
            let ends = [end("at least", dimension.floor), end("at most", dimension.ceiling)].concat();
            out.push((format!("dimension {}", dimension.id), format!("{}{ends}", dimension.title)));
            for criterion in &dimension.criteria {
                let words = criterion_words(dialogue, criterion);
                let named = criterion.label.as_ref().map_or_else(|| words.clone(), |label| format!("{label}: {words}"));
                out.push((format!("criterion {}", criterion.id), named));
            }
        }
        let band = |id: &str| bands.iter().find(|band| band.id == id).map_or(id.to_owned(), |band| band.label.clone());
        out.extend(must_haves.iter().map(|must| {
            let words = format!("must have: {}, or the band stops at {}", say(&must.holds), band(&must.cap));
            (format!("must {}", must.id), words)
        }));
        out.extend(rule_outs.iter().map(|rule_out| {
            let told = if rule_out.told { ", which the prospect reads too" } else { "" };
            (
                format!("out {}", rule_out.id),
                format!(
                    "rules out when {}: {}{told}",
                    say(&rule_out.holds),
                    rule_out.reason.get(&dialogue.language, &dialogue.language)
                ),
            )
        }));
        out.extend(bands.iter().enumerate().map(|(place, band)| {
            let from = band.from.map_or_else(String::new, |from| format!(" from {from}"));
            let tone = band.tone.map_or_else(String::new, |tone| format!(", {}", tone.name()));
            let qualified = if card.is_qualified(place) { ", counts as qualified" } else { "" };
            let within =
                band.call_within.map_or_else(String::new, |minutes| format!(", called within {minutes} minutes"));
            (format!("band {}", band.id), format!("{}{from}{tone}{qualified}{within}", band.label))
        }));
    }
    out
}

fn routing(dialogue: &Dialogue) -> Vec<(String, String)> {
    let named = dialogue.named_fields();
    let say = |holds| condition::say(holds, &named, &dialogue.language);
    let rules = dialogue.routing.rules.iter().enumerate();
    let mut out: Vec<_> =
        rules.map(|(place, rule)| (rule.id.clone(), rule_words(place, &say(&rule.holds), rule))).collect();
    out.extend(dialogue.routing.otherwise.iter().map(|queue| ("otherwise".to_owned(), format!("otherwise → {queue}"))));
    out
}

fn rule_words(place: usize, holds: &str, rule: &RoutingRule) -> String {
    let skills = if rule.skills.is_empty() { String::new() } else { format!(", needs {}", rule.skills.join(", ")) };
    let owned = if rule.even_if_owned { ", even for somebody who has an owner" } else { "" };
    let goes = rule.table.as_ref().map_or_else(|| rule.queue.clone(), |by| format!("{} by {}", by.table, by.field));
    let firm = rule.firm.map_or_else(String::new, |firm| format!(", and {}", firm.says()));
    format!("{}. {holds}{firm} → {goes}{skills}{owned}", place + 1)
}

fn fields(dialogue: &Dialogue) -> Vec<(String, String)> {
    dialogue
        .fields
        .iter()
        .map(|field| {
            let options: Vec<&str> =
                field.options.iter().map(|option| option.label.get(&dialogue.language, &dialogue.language)).collect();
            let options = if options.is_empty() { String::new() } else { format!(" ({})", options.join(", ")) };
            let rules: Vec<&str> = field.rules.iter().map(lumbo_dialogue::file::Rule::key).collect();
            let rules =
                if rules.is_empty() { String::new() } else { format!(", {}", rules.join(", ").replace('_', " ")) };
            (field.id.clone(), format!("{}, {}{options}{rules}", field.label, field.kind.name().replace('_', " ")))
        })
        .collect()
}

/// What of a scorecard's line is not as in the release.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct CardChange {
    /// What it said then; absent where it is new.
    pub before: Option<String>,
}

/// What of the scorecards is not as in a release.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct CardChanges {
    /// Lines that say something else, by id.
    pub changed: BTreeMap<String, CardChange>,
    /// Lines that are gone, in words.
    pub gone: Vec<String>,
}

/// What of the scorecards became different since a release.
#[must_use]
pub fn card_changes(released: &Dialogue, draft: &Dialogue) -> CardChanges {
    let (old, new) = (scoring(released), scoring(draft));
    let was = |name: &str| old.iter().find(|(known, _)| known == name).map(|(_, words)| words.clone());
    let id = |name: &str| name.split_once(' ').map_or(name, |(_, id)| id).to_owned();
    let changed = new.iter().filter(|(name, words)| was(name).as_ref() != Some(words));
    let is_gone = |name: &str| !new.iter().any(|(known, _)| known == name);
    CardChanges {
        changed: changed.map(|(name, _)| (id(name), CardChange { before: was(name) })).collect(),
        gone: old.iter().filter(|(name, _)| is_gone(name)).map(|(_, words)| words.clone()).collect(),
    }
}

pub(super) fn others(old: &Dialogue, new: &Dialogue) -> Vec<OtherChange> {
    let mut out = Vec::new();
    let text = |dialogue: &Dialogue, text: &lumbo_dialogue::file::Text| text_words(dialogue, text);
    let one = |words: String| vec![("it".to_owned(), words)];
    listed("Title", Change::Reworded, &one(old.title.clone()), &one(new.title.clone()), &mut out);
    let opening = |dialogue: &Dialogue| {
        one(format!("{} [{}]", text(dialogue, &dialogue.opening.say), text(dialogue, &dialogue.opening.button)))
    };
    listed("Opening", Change::Reworded, &opening(old), &opening(new), &mut out);
    listed("Scoring", Change::Rescored, &scoring(old), &scoring(new), &mut out);
    listed("Routing", Change::Rerouted, &routing(old), &routing(new), &mut out);
    listed("Fields", Change::Changed, &fields(old), &fields(new), &mut out);
    let brief = |dialogue: &Dialogue| {
        let fits = dialogue.brief.fits.iter().map(|fit| {
            let words = condition::say(&fit.holds, &dialogue.named_fields(), &dialogue.language);
            if fit.out { format!("ruled out: {words}") } else { words }
        });
        one(format!(
            "needs {}; fit: {}; taken by: {}",
            dialogue.brief.needs.iter().map(|need| need.join(" or ")).collect::<Vec<_>>().join(", "),
            std::iter::once(dialogue.brief.fit.clone())
                .filter(|fit| !fit.is_empty())
                .chain(fits)
                .collect::<Vec<_>>()
                .join("; "),
            dialogue.brief.taker
        ))
    };
    listed("Brief", Change::Changed, &brief(old), &brief(new), &mut out);
    let outcomes = |dialogue: &Dialogue| {
        let words = |outcome: &Outcome| match &outcome.request {
            None => format!("{} ({})", outcome.label, class_words(outcome.class)),
            Some(request) => format!(
                "{}: leaves a request in queue {}, to be answered within {} working minutes",
                outcome.label, request.queue, request.within
            ),
        };
        dialogue.outcomes.iter().map(|outcome| (outcome.id.clone(), words(outcome))).collect::<Vec<_>>()
    };
    listed("Outcomes", Change::Changed, &outcomes(old), &outcomes(new), &mut out);
    let any_time = |dialogue: &Dialogue| {
        let talk = dialogue.side_talk.iter().map(|talk| {
            let phrases: Vec<String> = talk.phrases.values().flatten().map(|phrase| format!("“{phrase}”")).collect();
            let does = match &talk.does {
                lumbo_dialogue::file::SideTalkDoes::Answer(parts) => parts_words(dialogue, parts),
                lumbo_dialogue::file::SideTalkDoes::GoTo(section) => format!("→ {}", section_name(dialogue, section)),
            };
            (
                talk.id.clone(),
                if phrases.is_empty() {
                    format!("no phrase yet: {does}")
                } else {
                    format!("{}: {does}", phrases.join(", "))
                },
            )
        });
        talk.chain(dialogue.offers.iter().map(|offer| (offer.id.clone(), parts_words(dialogue, &offer.say))))
            .collect::<Vec<_>>()
    };
    listed("Any time", Change::Reworded, &any_time(old), &any_time(new), &mut out);
    let phrases = |dialogue: &Dialogue| {
        dialogue.phrases.iter().map(|(key, words)| (key.clone(), text(dialogue, words))).collect::<Vec<_>>()
    };
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
