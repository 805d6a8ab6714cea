//! Currencies of ISO 4217: codes, decimals, signs and everyday names. Listed in `data/currencies.json`.

use std::sync::OnceLock;

use serde::Deserialize;

/// A currency as it is listed.
#[derive(Debug, Deserialize)]
pub struct Currency {
    /// ISO 4217 code.
    pub code: String,
    /// Decimals that it is written with.
    pub digits: u32,
    /// Signs, such as `£`.
    #[serde(default)]
    pub signs: Vec<String>,
    /// Everyday names in every language of reading, in lower case.
    #[serde(default)]
    pub names: Vec<String>,
}

/// Every currency, sorted by its code.
#[must_use]
pub fn currencies() -> &'static [Currency] {
    static LISTED: OnceLock<Vec<Currency>> = OnceLock::new();
    // A list that does not load would be empty; a test reads it.
    LISTED.get_or_init(|| serde_json::from_str(include_str!("../data/currencies.json")).unwrap_or_default())
}

/// The currency with a code.
///
/// ```
/// use lumbo_value::money::currency;
/// assert_eq!(currency("KWD").map(|dinar| dinar.digits), Some(3));
/// assert!(currency("XBR").is_none());
/// ```
#[must_use]
pub fn currency(code: &str) -> Option<&'static Currency> {
    let all = currencies();
    all.binary_search_by(|listed| listed.code.as_str().cmp(code)).ok().map(|place| &all[place])
}

/// Decimals that a currency is written with: ISO 4217 minor units; two where the code is not listed.
#[must_use]
pub fn minor_units(code: &str) -> u32 {
    currency(code).map_or(2, |listed| listed.digits)
}
