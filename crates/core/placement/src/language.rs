//! The visitor's languages against those there are: filtering and lookup as RFC 4647 has them (sections 3.3.1 and 3.4),
//! priority lists as RFC 9110 has them (section 12.5.4).

/// Most languages of a list that are looked at.
const MOST: usize = 20;

/// Languages of an `Accept-Language` header or a single tag, the most wanted first; those of weight 0 are left out.
#[must_use]
pub fn priorities(list: &str) -> Vec<String> {
    let mut found: Vec<(u16, String)> = list
        .split(',')
        .take(MOST)
        .filter_map(|part| {
            let mut parts = part.split(';').map(str::trim);
            let tag = parts.next().filter(|tag| !tag.is_empty())?;
            let weight = parts
                .find_map(|rest| rest.strip_prefix("q=").or_else(|| rest.strip_prefix("Q=")))
                .map_or(Some(1.0), |weight| weight.parse::<f32>().ok())?;
            // Thousandths are as fine as the RFC has them.
            let weight = (weight.clamp(0.0, 1.0) * 1_000.0).round() as u16;
            (weight > 0).then(|| (weight, tag.replace('_', "-")))
        })
        .collect();
    found.sort_by_key(|(weight, _)| std::cmp::Reverse(*weight));
    found.into_iter().map(|(_, tag)| tag).collect()
}

/// Basic filtering (RFC 4647, section 3.3.1): `de` fits `de` and `de-AT`, `*` fits everything.
#[must_use]
pub fn filters(range: &str, tag: &str) -> bool {
    let (range, tag) = (range.trim().to_lowercase(), tag.trim().to_lowercase());
    range == "*"
        || range == tag
        || tag.strip_prefix(&range).is_some_and(|rest| !range.is_empty() && rest.starts_with('-'))
}

/// Lookup (RFC 4647, section 3.4): the language of `available` that fits best, each wanted one cut from its end until
/// something fits, single letters with what follows them. `*` is passed over, as the RFC says.
#[must_use]
pub fn lookup<'a>(wanted: &[String], available: &[&'a str]) -> Option<&'a str> {
    for range in wanted {
        let mut rest = range.as_str();
        while rest != "*" && !rest.is_empty() {
            if let Some(found) = available.iter().find(|tag| tag.eq_ignore_ascii_case(rest)) {
                return Some(found);
            }
            rest = rest.rsplit_once('-').map_or("", |(head, _)| head);
            if let Some((head, last)) = rest.rsplit_once('-')
                && last.len() == 1
            {
                rest = head;
            }
        }
    }
    None
}
