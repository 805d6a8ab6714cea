//! Every kind of turn, by the file that has one of each: what the rest of the product knows of it.

use std::collections::BTreeSet;

use lumbo_dialogue::Plan;
use lumbo_dialogue::file::{Dialogue, canonical, load};
use lumbo_dialogue::plan::Kind;
use lumbo_dialogue::turns::Turn;
use lumbo_dialogue::turns::words::{turn_name, turn_words};

const EVERY_KIND: &str = include_str!("../../../../demo/every-kind.json");

#[allow(clippy::unwrap_used)]
fn every_kind() -> Dialogue {
    load(EVERY_KIND).unwrap()
}

/// The first turn of each kind, in reading order.
fn one_of_each(dialogue: &Dialogue) -> Vec<Turn> {
    let mut seen = BTreeSet::new();
    let mut out = Vec::new();
    dialogue.each_turn(&mut |_, _, turn| {
        if seen.insert(turn.kind()) {
            out.push(turn.clone());
        }
    });
    out
}

#[test]
fn every_kind_is_known_by_its_name_its_words_its_fields_and_where_it_leads() {
    let dialogue = every_kind();
    let plan = Plan::new(&dialogue).0;
    let mut table = String::new();
    for mut turn in one_of_each(&dialogue) {
        let made = plan.turn(turn.id()).map(|(_, node)| &node.kind);
        let ready = !matches!(made, Some(Kind::Broken(_)) | None);
        assert_eq!(ready, turn.can_run(), "{}: what runs is made ready, and nothing else", turn.kind());
        table.push_str(&format!("{} ({})\n  {}\n", turn.kind_label(), turn.kind(), turn_words(&dialogue, &turn)));
        let mut line = |what: &str, found: String| {
            if !found.is_empty() {
                table.push_str(&format!("  {what}: {found}\n"));
            }
        };
        line("asks for", turn.asks_for().join(", "));
        line("fills", turn.fills().join(", "));
        line("works out", turn.formulas().join("; "));
        line("leads to", turn.leads_to().map(|(section, lead)| format!("{section} ({lead:?})")).unwrap_or_default());
        line("ends as", turn.ends_as().cloned().unwrap_or_default());
        line("shows", turn.media().len().to_string().replace('0', ""));
        line("says", turn.said().len().to_string());
        line("texts", turn.texts().len().to_string());
        line("asks and waits", if made.is_some_and(Kind::asks) { "yes".into() } else { String::new() });
    }
    insta::assert_snapshot!(table);
}

#[test]
fn every_kind_of_the_format_is_in_the_file_and_keeps_its_words_in_json() {
    let dialogue = every_kind();
    let schema = serde_json::to_string(&lumbo_dialogue::file::schema()).unwrap();
    for turn in one_of_each(&dialogue) {
        assert!(schema.contains(&format!("\"const\":\"{}\"", turn.kind())), "{}", turn.kind());
        let json = serde_json::to_value(&turn).unwrap();
        assert_eq!(json["kind"], turn.kind());
        assert_eq!(serde_json::from_value::<Turn>(json).unwrap(), turn);
        assert!(turn_name(&dialogue, &turn).starts_with(turn.kind_label()));
    }
    assert_eq!(one_of_each(&dialogue).len(), 14);
    assert_eq!(load(&canonical(&dialogue)).unwrap(), dialogue);
}

#[test]
fn an_error_inside_any_kind_says_where_it_is() {
    let whole: serde_json::Value = serde_json::from_str(EVERY_KIND).unwrap();
    for turn in one_of_each(&every_kind()) {
        let mut file = whole.clone();
        let mut broken = serde_json::to_value(&turn).unwrap();
        broken["colour"] = "blue".into();
        file["sections"][0]["turns"] = serde_json::json!([broken]);
        let error = load(&file.to_string()).unwrap_err().to_string();
        assert!(error.contains("sections[0].turns[0]") && error.contains("colour"), "{}: {error}", turn.kind());
    }
}
