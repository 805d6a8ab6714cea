//! How a contact wants to be reached, and how not.

use lumbo_value::permits::Channel;

/// What a change of how they want to be reached says, in a timeline; nothing where nothing changed.
///
/// ```
/// use lumbo_records::reach_says;
/// use lumbo_value::permits::Channel;
/// let says = reach_says((None, &[]), (Some(Channel::Mail), &[Channel::Call]));
/// assert_eq!(says.as_deref(), Some("They want no calls. They prefer mail"));
/// assert_eq!(reach_says((None, &[Channel::Call]), (None, &[])).as_deref(), Some("They take calls again"));
/// assert_eq!(reach_says((None, &[]), (None, &[])), None);
/// ```
#[must_use]
pub fn reach_says(before: (Option<Channel>, &[Channel]), after: (Option<Channel>, &[Channel])) -> Option<String> {
    let listed =
        |channels: Vec<Channel>, joint: &str| channels.into_iter().map(Channel::words).collect::<Vec<_>>().join(joint);
    let only = |these: &[Channel], those: &[Channel]| -> Vec<Channel> {
        Channel::ALL.into_iter().filter(|one| these.contains(one) && !those.contains(one)).collect()
    };
    let (refused, allowed) = (only(after.1, before.1), only(before.1, after.1));
    let mut says = Vec::new();
    if !refused.is_empty() {
        says.push(format!("They want no {}", listed(refused, " and no ")));
    }
    if !allowed.is_empty() {
        says.push(format!("They take {} again", listed(allowed, " and ")));
    }
    if before.0 != after.0 {
        says.push(match after.0 {
            Some(channel) => format!("They prefer {}", channel.words()),
            None => "They prefer no way over another".to_owned(),
        });
    }
    (!says.is_empty()).then(|| says.join(". "))
}
