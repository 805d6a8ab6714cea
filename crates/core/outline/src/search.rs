//! Find and replace over everything a prospect reads, and the names that authors give to sections, arms and fields.
//! Keys of chips are never changed; their fallback words are.

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use super::edit::Edit;
use lumbo_dialogue::file::{Dialogue, SideTalkDoes, Text};
use lumbo_dialogue::turns::texts::{arm_texts, field_texts, follow_texts, parts_texts};
use lumbo_dialogue::turns::words::turn_name;

/// What is looked for.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Search {
    /// The words, 1 to 200 characters.
    pub find: String,
    /// Capital and small letters differ.
    #[serde(default)]
    pub match_case: bool,
    /// Only whole words.
    #[serde(default)]
    pub whole_words: bool,
}

/// A text that has the words in it.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct Found {
    /// The row, as `turn:ID`, `arm:ID` or `section:ID`; or `field:ID`, `opening`, `phrase:KEY`, `any-time`, `scoring`.
    pub at: String,
    /// The place in words.
    pub place: String,
    /// The text now.
    pub before: String,
    /// The text after replacing.
    pub after: String,
}

/// Longest words looked for.
pub const FIND_LIMIT: usize = 200;

/// Replaces in words outside chips, and in the fallback of chips; counts the places.
fn replace_in(text: &str, search: &Search, with: &str) -> Option<String> {
    let mut out = String::with_capacity(text.len());
    let mut rest = text;
    let mut hits = 0;
    while !rest.is_empty() {
        let open = rest.find('{').unwrap_or(rest.len());
        hits += replace_words(&rest[..open], search, with, &mut out);
        rest = &rest[open..];
        if rest.is_empty() {
            break;
        }
        if rest.starts_with("{{") {
            out.push_str("{{");
            rest = &rest[2..];
            continue;
        }
        let close = rest.find('}').map_or(rest.len(), |at| at + 1);
        let chip = &rest[..close];
        match chip.find('|').filter(|_| chip.ends_with('}')) {
            Some(bar) => {
                out.push_str(&chip[..=bar]);
                // A brace or bar in the new words would end the chip early.
                let safe: String = with.chars().filter(|c| !matches!(c, '{' | '}' | '|')).collect();
                hits += replace_words(&chip[bar + 1..chip.len() - 1], search, &safe, &mut out);
                out.push('}');
            }
            None => out.push_str(chip),
        }
        rest = &rest[close..];
    }
    (hits > 0).then_some(out)
}

/// Replaces in plain words; case folds by single characters, so that places in the text stay true.
fn replace_words(text: &str, search: &Search, with: &str, out: &mut String) -> usize {
    let fold = |c: char| if search.match_case { c } else { c.to_lowercase().next().unwrap_or(c) };
    let needle: Vec<char> = search.find.chars().map(fold).collect();
    let hay: Vec<char> = text.chars().collect();
    let word = |c: Option<&char>| c.is_some_and(|c| c.is_alphanumeric() || *c == '_');
    let (mut at, mut hits) = (0, 0);
    while at < hay.len() {
        let end = at + needle.len();
        let fits = end <= hay.len()
            && hay[at..end].iter().zip(&needle).all(|(c, wanted)| fold(*c) == *wanted)
            && (!search.whole_words
                || !(word(at.checked_sub(1).and_then(|before| hay.get(before))) || word(hay.get(end))));
        if fits && !needle.is_empty() {
            out.push_str(with);
            at = end;
            hits += 1;
        } else {
            out.push(hay[at]);
            at += 1;
        }
    }
    hits
}

/// One place with the edit that replaces it.
struct Hit {
    found: Found,
    edit: Edit,
}

/// Every place that has the words, in the order of the outline, as it is and as it would be.
#[must_use]
pub fn find(dialogue: &Dialogue, search: &Search, with: &str) -> Vec<Found> {
    hits(dialogue, search, with).into_iter().map(|hit| hit.found).collect()
}

/// The edits that replace at the chosen places (numbers of [`find`]'s list; all where nothing is chosen).
#[must_use]
pub fn replace(dialogue: &Dialogue, search: &Search, with: &str, only: Option<&[u32]>) -> Vec<Edit> {
    let chosen = |place: usize| only.is_none_or(|only| only.iter().any(|wanted| *wanted as usize == place));
    hits(dialogue, search, with)
        .into_iter()
        .enumerate()
        .filter(|(place, _)| chosen(*place))
        .map(|(_, hit)| hit.edit)
        .collect()
}

fn hits(dialogue: &Dialogue, search: &Search, with: &str) -> Vec<Hit> {
    if search.find.is_empty() || search.find.chars().count() > FIND_LIMIT {
        return Vec::new();
    }
    let language = dialogue.language.as_str();
    let change = |text: &str| replace_in(text, search, with);
    // Changes every language's words; what is shown is the dialogue's own language where it has the words.
    let change_all = |texts: Vec<&mut Text>| -> Option<(String, String)> {
        let mut shown: Option<(String, String)> = None;
        for text in texts {
            for (tag, words) in &mut text.0 {
                if let Some(new) = change(words) {
                    if shown.is_none() || tag == language {
                        shown.get_or_insert_with(|| (words.clone(), new.clone()));
                    }
                    *words = new;
                }
            }
        }
        shown
    };
    let mut out: Vec<Hit> = Vec::new();
    let mut put = |at: String, place: String, (before, after): (String, String), edit: Edit| {
        out.push(Hit { found: Found { at, place, before, after }, edit });
    };

    let mut opening = dialogue.opening.clone();
    if let Some(shown) = change_all(vec![&mut opening.say, &mut opening.button]) {
        put("opening".into(), "the greeting".into(), shown, Edit::SetOpening { opening });
    }
    for section in &dialogue.sections {
        let mut title = section.title.clone();
        let mut then = section.then.clone();
        let mut shown = change_all(follow_texts(&mut then));
        if let Some(new) = change(&title) {
            shown = Some((title, new.clone()));
            title = new;
        }
        if let Some(shown) = shown {
            put(
                format!("section:{}", section.id),
                "a section’s title".into(),
                shown,
                Edit::ChangeSection { id: section.id.clone(), title, then },
            );
        }
        in_turns(dialogue, &section.turns, &change, &change_all, &mut put);
    }
    for field in &dialogue.fields {
        let mut field = field.clone();
        let mut shown = change_all(field_texts(&mut field));
        if let Some(new) = change(&field.label) {
            shown = Some((field.label.clone(), new.clone()));
            field.label = new;
        }
        if let Some(shown) = shown {
            put(format!("field:{}", field.id), format!("the field {}", field.label), shown, Edit::PutField { field });
        }
    }
    let (mut side_talk, mut offers) = (dialogue.side_talk.clone(), dialogue.offers.clone());
    let mut texts: Vec<&mut Text> = Vec::new();
    for talk in &mut side_talk {
        if let SideTalkDoes::Answer(parts) = &mut talk.does {
            texts.extend(parts_texts(parts));
        }
    }
    texts.extend(offers.iter_mut().flat_map(|offer| parts_texts(&mut offer.say)));
    if let Some(shown) = change_all(texts) {
        put("any-time".into(), "side-talk and offers".into(), shown, Edit::SetAnyTime { side_talk, offers });
    }
    for (key, text) in &dialogue.phrases {
        let mut text = text.clone();
        if let Some(shown) = change_all(vec![&mut text]) {
            put(
                format!("phrase:{key}"),
                "a built-in phrase".into(),
                shown,
                Edit::SetPhrase { key: key.clone(), text: Some(text) },
            );
        }
    }
    let mut scorecards = dialogue.scorecards.clone();
    let reasons = scorecards.iter_mut().flat_map(|card| &mut card.rule_outs).map(|out| &mut out.reason).collect();
    if let Some(shown) = change_all(reasons) {
        put(
            "scoring".into(),
            "reasons of rule-outs".into(),
            shown,
            Edit::SetScorecards { scorecards, default: dialogue.default_scorecard.clone() },
        );
    }
    out
}

fn in_turns(
    dialogue: &Dialogue,
    turns: &[lumbo_dialogue::file::Turn],
    change: &impl Fn(&str) -> Option<String>,
    change_all: &impl Fn(Vec<&mut Text>) -> Option<(String, String)>,
    put: &mut impl FnMut(String, String, (String, String), Edit),
) {
    for turn in turns {
        let mut bare = turn.clone();
        if let Some(arms) = bare.arms_mut() {
            arms.clear();
        }
        if let Some(shown) = change_all(bare.texts()) {
            put(format!("turn:{}", turn.id()), turn_name(dialogue, turn), shown, Edit::ChangeTurn { turn: bare });
        }
        for arm in turn.arms() {
            let mut bare = arm.clone();
            bare.turns.clear();
            let mut shown = change_all(arm_texts(&mut bare));
            if let Some(new) = bare.label.as_deref().and_then(change) {
                shown = Some((bare.label.clone().unwrap_or_default(), new.clone()));
                bare.label = Some(new);
            }
            if let Some(shown) = shown {
                put(format!("arm:{}", arm.id), "an arm’s name".into(), shown, Edit::ChangeArm { arm: bare });
            }
            in_turns(dialogue, &arm.turns, change, change_all, put);
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::apply;

    fn demo() -> Dialogue {
        lumbo_dialogue::file::load(include_str!("../../../../demo/storage-enquiry.json")).unwrap()
    }

    fn search(find: &str) -> Search {
        Search { find: find.into(), match_case: false, whole_words: false }
    }

    #[test]
    fn words_are_replaced_outside_chips_and_in_fallbacks_but_never_in_keys() {
        let text = "Pallets: {pallets|that many pallets}, {{pallets, {temperature?frozen=pallets|no}";
        assert_eq!(
            replace_in(text, &search("pallets"), "crates").unwrap(),
            "crates: {pallets|that many crates}, {{crates, {temperature?frozen=pallets|no}"
        );
        assert_eq!(replace_in("{a|there}", &search("there"), "x|}y").unwrap(), "{a|xy}");
    }

    #[test]
    fn case_and_whole_words_count_where_asked_for() {
        let case = Search { match_case: true, ..search("Pallet") };
        assert_eq!(replace_in("Pallet pallet", &case, "x").unwrap(), "x pallet");
        let whole = Search { whole_words: true, ..search("pallet") };
        assert_eq!(replace_in("pallets, pallet", &whole, "x").unwrap(), "pallets, x");
        // A capital whose small letter is longer must not shift what follows.
        assert_eq!(replace_in("İstanbul pallet", &search("pallet"), "x").unwrap(), "İstanbul x");
    }

    #[test]
    fn the_preview_is_what_replacing_does() {
        let mut dialogue = demo();
        let found = find(&dialogue, &search("pallet"), "crate");
        assert!(found.len() > 3, "{found:#?}");
        let edits = replace(&dialogue, &search("pallet"), "crate", None);
        assert_eq!(edits.len(), found.len());
        for edit in edits {
            apply(&mut dialogue, edit).unwrap();
        }
        assert_eq!(find(&dialogue, &search("pallet"), "crate"), []);
        assert!(
            dialogue.fields.iter().any(|field| field.key == "pallets" && field.label == "crates"),
            "keys stay, labels follow"
        );
        assert_eq!(lumbo_checks::check(&dialogue), []);
    }

    #[test]
    fn only_chosen_places_are_replaced() {
        let dialogue = demo();
        let found = find(&dialogue, &search("pallet"), "crate");
        let edits = replace(&dialogue, &search("pallet"), "crate", Some(&[1]));
        let mut changed = dialogue;
        for edit in edits {
            apply(&mut changed, edit).unwrap();
        }
        assert_eq!(find(&changed, &search("pallet"), "crate").len(), found.len() - 1);
    }

    #[test]
    fn nothing_is_found_by_nothing() {
        assert_eq!(find(&demo(), &search(""), "x"), []);
        assert_eq!(find(&demo(), &search(&"x".repeat(201)), "x"), []);
    }
}
