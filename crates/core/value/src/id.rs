//! Ids and keys.

/// A short, stable name that is unique in its file: 1 to 40 of `a-z`, `0-9`, `_` and `-`.
pub type Id = String;

/// Longest id, in characters.
pub const ID_LIMIT: usize = 40;

/// True where `id` is well formed.
#[must_use]
pub fn is_id(id: &str) -> bool {
    (1..=ID_LIMIT).contains(&id.len())
        && id.bytes().all(|b| b.is_ascii_lowercase() || b.is_ascii_digit() || b == b'_' || b == b'-')
}

/// True where `key` is a well-formed field key.
#[must_use]
pub fn is_key(key: &str) -> bool {
    (1..=ID_LIMIT).contains(&key.len())
        && key.starts_with(|c: char| c.is_ascii_lowercase())
        && key.bytes().all(|b| b.is_ascii_lowercase() || b.is_ascii_digit() || b == b'_')
}
