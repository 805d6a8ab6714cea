//! What a reader is built from, and why one cannot be.

use lumbo_value::{Field, Rule, Table, TryMessage};

/// What a [`Reader`] is built from.
#[derive(Debug, Clone, Copy)]
pub struct ReaderSpec<'a> {
    /// The field.
    pub field: &'a Field,
    /// Rules of the ask, beside the field's own.
    pub rules: &'a [Rule],
    /// Keys of the field's own rules that the ask leaves out.
    pub loosens: &'a [String],
    /// Options that the ask offers; all where empty.
    pub only: &'a [String],
    /// The author's messages.
    pub messages: &'a [TryMessage],
    /// Language of the conversation.
    pub language: &'a str,
    /// Language every text has.
    pub required_language: &'a str,
    /// Fields and tables that formulas may name.
    pub fields: &'a [Field],
    /// See `fields`.
    pub tables: &'a [Table],
    /// ISO 4217 code that money without a sign is in, where the field names none.
    pub currency: Option<&'a str>,
}

impl<'a> ReaderSpec<'a> {
    /// A field on its own, in one language.
    #[must_use]
    pub fn of(field: &'a Field, language: &'a str) -> Self {
        Self {
            field,
            rules: &[],
            loosens: &[],
            only: &[],
            messages: &[],
            language,
            required_language: language,
            fields: &[],
            tables: &[],
            currency: None,
        }
    }
}

/// Why a reader cannot be built.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum ReaderError {
    /// A rule on a type that it does not fit.
    #[error("the rule {rule} does not fit the type {kind}")]
    Misfit {
        /// The rule's key.
        rule: &'static str,
        /// The type's name.
        kind: &'static str,
    },
    /// A parameter that is not what it should be.
    #[error("the rule {rule}: {says}")]
    Parameter {
        /// The rule's key.
        rule: &'static str,
        /// What is wrong.
        says: String,
    },
    /// A choice without options, or a scale whose options are no numbers.
    #[error("a {0} needs options{more}", more = if *.0 == "scale" { " with whole numbers as keys" } else { "" })]
    NoOptions(&'static str),
    /// A currency that ISO 4217 does not list.
    #[error("“{0}” is not a currency’s three-letter code")]
    Currency(String),
}
