//! Fields of the catalogue, as a dialogue carries them, the rules on them, and the tables that formulas read.

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use crate::id::Id;
use crate::permits::Permits;
use crate::text::Text;

/// A named, typed thing that we may know about a prospect.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Field {
    /// Immutable id; records and events refer to it.
    pub id: Id,
    /// The name in conditions, formulas and chips; may be renamed. A lower-case letter, then letters, digits, `_`.
    pub key: String,
    /// The name for people.
    pub label: String,
    /// What it holds.
    #[serde(rename = "type")]
    pub kind: FieldType,
    /// Options of a choice, choices or scale.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub options: Vec<Choice>,
    /// The unit a quantity is kept in, and shown after a whole number.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub unit: Option<String>,
    /// ISO 4217 code that money without a sign or code is taken to be in.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub currency: Option<String>,
    /// Rules every answer must pass.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub rules: Vec<Rule>,
    /// Keys of those of its rules that an ask may leave out.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub may_loosen: Vec<String>,
    /// Personal data: erased with the person, and a why-line is expected where it is asked.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub personal: bool,
    /// Which record it belongs to.
    #[serde(default)]
    pub record: Record,
    /// How it changes on a contact or company that has a value already.
    #[serde(default, skip_serializing_if = "Policy::is_usual")]
    pub policy: Policy,
    /// What a yes permits, of a consent; absent for the enquiry, in every way.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub permits: Option<Permits>,
    /// What it is for.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub note: Option<String>,
}

impl Field {
    /// A field without options, unit or rules, on the record where its type belongs.
    #[must_use]
    pub fn plain(id: Id, key: String, label: String, kind: FieldType) -> Self {
        let personal = matches!(kind, FieldType::PersonName | FieldType::Email | FieldType::Phone | FieldType::Address);
        let record = match kind {
            FieldType::Company | FieldType::Website => Record::Company,
            _ if personal => Record::Contact,
            _ => Record::Lead,
        };
        Self {
            id,
            key,
            label,
            kind,
            options: Vec::new(),
            unit: None,
            currency: None,
            rules: Vec::new(),
            may_loosen: Vec::new(),
            personal,
            record,
            policy: Policy::default(),
            permits: None,
            note: None,
        }
    }
}

/// The record of the customer system that a field is written to.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Record {
    /// The enquiry itself.
    #[default]
    Lead,
    /// The person.
    Contact,
    /// The firm.
    Company,
}

/// How a field changes on a contact or company that has a value already. Name, e-mail and phone are who they are and
/// follow no policy; a lead always shows what its own conversation said.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Policy {
    /// What was said last stands.
    #[default]
    TakeNewest,
    /// What was said first stays.
    KeepFirst,
    /// What is new is added; for lists and several options.
    AddToList,
    /// The highest number, amount or latest date stands.
    TakeHighest,
}

impl Policy {
    /// Every policy.
    pub const ALL: [Self; 4] = [Self::TakeNewest, Self::KeepFirst, Self::AddToList, Self::TakeHighest];

    /// Its name in files.
    #[must_use]
    pub fn name(self) -> &'static str {
        match self {
            Self::TakeNewest => "take_newest",
            Self::KeepFirst => "keep_first",
            Self::AddToList => "add_to_list",
            Self::TakeHighest => "take_highest",
        }
    }

    /// True for the one that needs no mention.
    #[must_use]
    pub fn is_usual(&self) -> bool {
        *self == Self::default()
    }
}

/// One option of a field.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Choice {
    /// Kept as the value.
    pub key: String,
    /// What the prospect reads.
    pub label: Text,
    /// Other words that mean it.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub also: Vec<String>,
    /// A short line under the label.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub hint: Option<Text>,
    /// Hash of a picture.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub picture: Option<String>,
}

/// What a field holds.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum FieldType {
    /// A line of text.
    Text,
    /// Several lines of text.
    LongText,
    /// A person's name.
    PersonName,
    /// A company's name.
    Company,
    /// An e-mail address.
    Email,
    /// A phone number, kept as E.164.
    Phone,
    /// A web address.
    Website,
    /// A whole number.
    WholeNumber,
    /// A number with a unit.
    Quantity,
    /// An amount of money.
    Money,
    /// A date.
    Date,
    /// Yes or no.
    YesNo,
    /// One of the options.
    Choice,
    /// Some of the options.
    Choices,
    /// A number between two worded ends.
    Scale,
    /// A place.
    Place,
    /// A postal address.
    Address,
    /// Open words in a row.
    List,
    /// A country.
    Country,
    /// An explicit yes or no to a worded question.
    Consent,
}

impl FieldType {
    /// Every type, in the order of the documentation.
    pub const ALL: [Self; 20] = [
        Self::Text,
        Self::LongText,
        Self::PersonName,
        Self::Company,
        Self::Email,
        Self::Phone,
        Self::Website,
        Self::WholeNumber,
        Self::Quantity,
        Self::Money,
        Self::Date,
        Self::YesNo,
        Self::Choice,
        Self::Choices,
        Self::Scale,
        Self::Place,
        Self::Address,
        Self::List,
        Self::Country,
        Self::Consent,
    ];

    /// The type's name in files and on the command line.
    #[must_use]
    pub fn name(self) -> &'static str {
        match self {
            Self::Text => "text",
            Self::LongText => "long_text",
            Self::PersonName => "person_name",
            Self::Company => "company",
            Self::Email => "email",
            Self::Phone => "phone",
            Self::Website => "website",
            Self::WholeNumber => "whole_number",
            Self::Quantity => "quantity",
            Self::Money => "money",
            Self::Date => "date",
            Self::YesNo => "yes_no",
            Self::Choice => "choice",
            Self::Choices => "choices",
            Self::Scale => "scale",
            Self::Place => "place",
            Self::Address => "address",
            Self::List => "list",
            Self::Country => "country",
            Self::Consent => "consent",
        }
    }

    /// True where the answer is a yes or a no.
    #[must_use]
    pub fn is_yes_or_no(self) -> bool {
        matches!(self, Self::YesNo | Self::Consent)
    }

    /// True where the answer is one of listed options.
    #[must_use]
    pub fn has_options(self) -> bool {
        matches!(self, Self::Choice | Self::Choices | Self::Scale)
    }
}

/// A rule that an answer must pass.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(tag = "rule", rename_all = "snake_case", deny_unknown_fields)]
pub enum Rule {
    /// There must be an answer: no skip, and declining costs a try.
    Required {},
    /// Length in characters, both ends included.
    Length {
        /// Fewest characters.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        min: Option<u32>,
        /// Most characters.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        max: Option<u32>,
    },
    /// A regular expression that must match somewhere in the text.
    Pattern {
        /// The expression; linear-time syntax, 500 characters at most.
        regex: String,
    },
    /// A number between two ends, both included; decimal strings.
    Range {
        /// Lowest.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        min: Option<String>,
        /// Highest.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        max: Option<String>,
    },
    /// No decimals.
    Whole {},
    /// An address at a company: not free mail, throw-away or school.
    CompanyAddress {
        /// Domains always taken.
        #[serde(default, skip_serializing_if = "Vec::is_empty")]
        allow: Vec<String>,
        /// Domains never taken.
        #[serde(default, skip_serializing_if = "Vec::is_empty")]
        deny: Vec<String>,
    },
    /// A given and a family name.
    FullName {},
    /// A phone number of one of these countries, ISO 3166-1 alpha-2.
    PhoneCountry {
        /// The countries.
        countries: Vec<String>,
    },
    /// A number that can exist under its country's numbering plan.
    PhoneValid {},
    /// Today or later.
    NotPast {},
    /// At most this many days from today.
    WithinDays {
        /// The days.
        days: u32,
    },
    /// At least this many options.
    AtLeast {
        /// How many.
        n: u32,
    },
    /// At most this many options.
    AtMost {
        /// How many.
        n: u32,
    },
    /// The author's own formula over the answer and what is known.
    Formula {
        /// A yes/no formula.
        formula: String,
        /// Said when it does not hold.
        message: Text,
    },
}

impl Rule {
    /// The rule's stable key.
    #[must_use]
    pub fn key(&self) -> &'static str {
        match self {
            Self::Required {} => "required",
            Self::Length { .. } => "length",
            Self::Pattern { .. } => "pattern",
            Self::Range { .. } => "range",
            Self::Whole {} => "whole",
            Self::CompanyAddress { .. } => "company_address",
            Self::FullName {} => "full_name",
            Self::PhoneCountry { .. } => "phone_country",
            Self::PhoneValid {} => "phone_valid",
            Self::NotPast {} => "not_past",
            Self::WithinDays { .. } => "within_days",
            Self::AtLeast { .. } => "at_least",
            Self::AtMost { .. } => "at_most",
            Self::Formula { .. } => "formula",
        }
    }

    /// True where the rule makes sense for a type.
    #[must_use]
    pub fn fits(&self, kind: FieldType) -> bool {
        use FieldType as T;
        match self {
            Self::Required {} => true,
            Self::Length { .. } => matches!(kind, T::Text | T::LongText | T::Company | T::PersonName),
            Self::Pattern { .. } => matches!(kind, T::Text | T::LongText | T::Company | T::Email | T::Website),
            Self::Range { .. } => matches!(kind, T::WholeNumber | T::Quantity | T::Money | T::Scale),
            Self::Whole {} => matches!(kind, T::WholeNumber | T::Quantity | T::Money),
            Self::CompanyAddress { .. } => kind == T::Email,
            Self::FullName {} => kind == T::PersonName,
            Self::PhoneCountry { .. } | Self::PhoneValid {} => kind == T::Phone,
            Self::NotPast {} | Self::WithinDays { .. } => kind == T::Date,
            Self::AtLeast { .. } | Self::AtMost { .. } => matches!(kind, T::Choices | T::List),
            Self::Formula { .. } => true,
        }
    }
}

/// The author's messages for one rule.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct TryMessage {
    /// A rule's key, `type`, or `any`.
    pub on: String,
    /// One per try; the last repeats.
    pub say: Vec<Text>,
}

/// Rows the author keeps, read by LOOKUP.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Table {
    /// Its key in formulas.
    pub key: String,
    /// Column keys; the first is looked up.
    pub columns: Vec<String>,
    /// The rows, each as long as the columns. A column whose cells are all decimal numbers is a number.
    pub rows: Vec<Vec<String>>,
}
