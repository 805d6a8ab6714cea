//! What people permitted, and withdrew. Each word of theirs is kept for itself, so that it can always be said when, by
//! which wording and for what somebody was reached; what stands follows from all of them.

use std::collections::BTreeMap;

use jiff::Timestamp;
use lumbo_dialogue::plan::Plan;
use lumbo_dialogue::talk::State;
use lumbo_value::Value;
use lumbo_value::permits::{Channel, Purpose};

/// What a conversation said to one consent, for one way to reach them.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct PermissionSaid {
    /// Id of the consent's field.
    pub field: String,
    /// For what.
    pub purpose: Purpose,
    /// In which way.
    pub channel: Channel,
    /// True for a yes.
    pub given: bool,
    /// Version of the wording that was shown.
    pub wording: u32,
    /// When it was answered.
    pub at: Timestamp,
}

/// A word that somebody said of it, in a conversation or to a person here.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Permission {
    /// For what.
    pub purpose: Purpose,
    /// In which way.
    pub channel: Channel,
    /// True where it was given, false where it was withdrawn or refused.
    pub given: bool,
    /// When.
    pub at: Timestamp,
}

/// What a conversation said to its consents so far; `now` stands for a moment that was not kept.
#[must_use]
pub fn permissions(plan: &Plan, state: &State, now: Timestamp) -> Vec<PermissionSaid> {
    let mut out = Vec::new();
    for field in &plan.file.fields {
        let Some(held) = state.values.get(&field.id) else { continue };
        let Value::Consent { wording, at, given } = &held.value else { continue };
        let permits = field.permits.clone().unwrap_or_default();
        out.extend(permits.channels.iter().map(|channel| PermissionSaid {
            field: field.id.clone(),
            purpose: permits.purpose,
            channel: *channel,
            given: *given,
            wording: *wording,
            at: at.parse().unwrap_or(now),
        }));
    }
    out
}

/// What stands: for each purpose and way the place of the last word, of two at one moment the withdrawal.
///
/// ```
/// use lumbo_records::{Permission, stands};
/// use lumbo_value::permits::{Channel, Purpose};
/// let word = |given, at: &str| Permission {
///     purpose: Purpose::Marketing,
///     channel: Channel::Mail,
///     given,
///     at: at.parse().unwrap(),
/// };
/// let words = [word(true, "2026-11-01T09:00:00Z"), word(false, "2026-11-03T09:00:00Z")];
/// assert_eq!(stands(&words)[&(Purpose::Marketing, Channel::Mail)], 1);
/// assert!(stands(&[]).is_empty(), "without a word nothing is permitted, and nothing refused");
/// ```
#[must_use]
pub fn stands(words: &[Permission]) -> BTreeMap<(Purpose, Channel), usize> {
    let mut out: BTreeMap<(Purpose, Channel), usize> = BTreeMap::new();
    for (place, word) in words.iter().enumerate() {
        let last = out.entry((word.purpose, word.channel)).or_insert(place);
        let before = &words[*last];
        if (word.at, !word.given) > (before.at, !before.given) {
            *last = place;
        }
    }
    out
}

#[cfg(test)]
mod tests {
    use proptest::prelude::*;

    use super::*;

    fn word(purpose: usize, channel: usize, given: bool, second: i64) -> Permission {
        let at = Timestamp::from_second(1_790_000_000 + second).unwrap();
        Permission { purpose: Purpose::ALL[purpose], channel: Channel::ALL[channel], given, at }
    }

    proptest! {
        #[test]
        fn what_stands_is_the_last_word_in_whatever_order_they_come(
            said in prop::collection::vec((0..2_usize, 0..3_usize, any::<bool>(), 0..6_i64), 0..24),
            turn in 0..24_usize,
        ) {
            let words: Vec<Permission> = said.iter().map(|(p, c, g, s)| word(*p, *c, *g, *s)).collect();
            let mut turned = words.clone();
            turned.rotate_left(turn.min(words.len()));
            let given = |words: &[Permission]| -> BTreeMap<(Purpose, Channel), (bool, Timestamp)> {
                stands(words).into_iter().map(|(key, place)| (key, (words[place].given, words[place].at))).collect()
            };
            prop_assert_eq!(given(&words), given(&turned));
            for ((purpose, channel), (holds, at)) in given(&words) {
                let of = words.iter().filter(|word| (word.purpose, word.channel) == (purpose, channel));
                let last = of.clone().map(|word| word.at).max().unwrap();
                prop_assert_eq!(last, at);
                prop_assert_eq!(holds, of.filter(|word| word.at == last).all(|word| word.given));
            }
        }
    }
}
