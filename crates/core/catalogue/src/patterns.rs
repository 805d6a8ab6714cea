//! Ready-made dialogues to begin from, for different trades. They are data in `data/patterns/`; to add one, add a file
//! there and a line in [`FILES`]. Every one passes every check.

use crate::take_on;
use lumbo_dialogue::file::{Dialogue, Field, load};

/// Keys and files, in the order they are offered.
const FILES: [(&str, &str); 5] = [
    ("office-cleaning", include_str!("../data/patterns/office-cleaning.json")),
    ("machine-hire", include_str!("../data/patterns/machine-hire.json")),
    ("team-training", include_str!("../data/patterns/team-training.json")),
    ("solar-roofs", include_str!("../data/patterns/solar-roofs.json")),
    ("lift-maintenance", include_str!("../data/patterns/lift-maintenance.json")),
];

/// Every pattern with its key.
#[must_use]
pub fn all() -> Vec<(&'static str, Dialogue)> {
    FILES.iter().filter_map(|(key, text)| load(text).ok().map(|dialogue| (*key, dialogue))).collect()
}

/// A pattern by its key.
#[must_use]
pub fn pattern(key: &str) -> Option<Dialogue> {
    all().into_iter().find(|(known, _)| *known == key).map(|(_, dialogue)| dialogue)
}

/// Lets a dialogue from elsewhere use a workspace's catalogue and queues: a field of the same key is used where it is
/// alike, else its own field gets another key; a queue that is not there becomes the first that is.
pub fn fit_workspace(dialogue: &mut Dialogue, catalogue: &[Field], queues: &[String]) {
    take_on(dialogue, catalogue);
    if let Some(first) = queues.first() {
        for queue in
            dialogue.routing.rules.iter_mut().map(|rule| &mut rule.queue).chain(dialogue.routing.otherwise.iter_mut())
        {
            if !queue.is_empty() && !queues.contains(queue) {
                queue.clone_from(first);
            }
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use lumbo_checks::check;
    use lumbo_outline::rows;
    use lumbo_ways::reach::reach;

    #[test]
    fn every_pattern_passes_every_check_and_captures_what_it_promises() {
        assert_eq!(all().len(), FILES.len(), "a file of data/patterns does not load");
        for (key, dialogue) in all() {
            assert_eq!(check(&dialogue), [], "{key}");
            assert!(rows(&dialogue).len() > 12, "{key} is too small to learn from");
            let now = "2026-11-23T09:00:00Z".parse().unwrap();
            let reach = reach(&lumbo_dialogue::Plan::new(&dialogue).0, now, &|| false).unwrap();
            assert!(reach.questions.and_then(|questions| questions.most).is_some_and(|most| most > 4), "{key}");
            assert_eq!(
                (reach.turns_never, reach.arms_never, reach.gaps),
                (Vec::new(), Vec::new(), Vec::new()),
                "{key}"
            );
            assert_eq!(
                lumbo_dialogue::file::canonical(
                    &lumbo_dialogue::file::load(&lumbo_dialogue::file::canonical(&dialogue)).unwrap()
                ),
                lumbo_dialogue::file::canonical(&dialogue)
            );
        }
    }

    #[test]
    fn a_pattern_takes_on_the_workspaces_fields_and_queues() {
        let mut dialogue = pattern("machine-hire").unwrap();
        let mut days = dialogue.fields.iter().find(|field| field.key == "days").unwrap().clone();
        days.id = "fld_mine".into();
        let mut firm = dialogue.fields.iter().find(|field| field.key == "firm").unwrap().clone();
        firm.id = "fld_other".into();
        firm.kind = lumbo_dialogue::file::FieldType::Text;
        fit_workspace(&mut dialogue, &[days, firm], &["north".into()]);
        assert!(dialogue.fields.iter().any(|field| field.id == "fld_mine"));
        assert!(
            dialogue.fields.iter().any(|field| field.key == "firm_2")
                && !dialogue.fields.iter().any(|field| field.key == "firm")
        );
        assert_eq!(dialogue.routing.otherwise.as_deref(), Some("north"));
        assert_eq!(check(&dialogue), []);
    }
}
