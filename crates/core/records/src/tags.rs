//! Tags: words that leads are found again by.

/// Longest tag, characters.
pub const TAG_LIMIT: usize = 30;

/// A tag as it is kept: without its mark, in single spaces; nothing where it is none.
///
/// ```
/// use lumbo_records::tag;
/// assert_eq!(tag("  #Trade  fair ").as_deref(), Some("Trade fair"));
/// assert_eq!(tag("a, b"), None);
/// assert_eq!(tag(&"x".repeat(31)), None);
/// ```
#[must_use]
pub fn tag(typed: &str) -> Option<String> {
    let words: Vec<&str> = typed.trim_start().trim_start_matches('#').split_whitespace().collect();
    let tag = words.join(" ");
    let is_one =
        !tag.is_empty() && tag.chars().count() <= TAG_LIMIT && !tag.chars().any(char::is_control) && !tag.contains(',');
    is_one.then_some(tag)
}
