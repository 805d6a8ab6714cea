//! Contacts and companies as they cross.

use jiff::Timestamp;
use lumbo_records::{Alike, AlsoGiven, LeadStatus, Source, Standing, Takes};
use lumbo_value::permits::{Channel, Purpose};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use serde_json::Value as Json;
use uuid::Uuid;

/// A line of the list of contacts.
#[derive(Debug, Clone, Serialize, JsonSchema)]
pub(crate) struct ContactRow {
    /// Its id.
    id: Uuid,
    /// Name on file.
    name: Option<String>,
    /// E-mail address on file.
    email: Option<String>,
    /// Phone number on file, E.164.
    phone: Option<String>,
    /// The company's name.
    company: Option<String>,
    /// How many leads of theirs there are.
    leads: i64,
    /// How many of them are open.
    open: i64,
    /// When the newest was filed, RFC 3339.
    #[schemars(with = "Option<String>")]
    last_at: Option<Timestamp>,
    /// Name of whoever has the newest.
    owner: Option<String>,
}

impl From<lumbo_store::ContactRow> for ContactRow {
    fn from(from: lumbo_store::ContactRow) -> Self {
        let lumbo_store::ContactRow { id, name, email, phone, company, leads, open, last_at, owner } = from;
        Self { id, name, email, phone, company, leads, open, last_at, owner }
    }
}

/// A page of contacts, by name.
#[derive(Debug, Clone, Serialize, JsonSchema)]
pub(crate) struct ContactPage {
    /// The contacts, 100 at most.
    contacts: Vec<ContactRow>,
    /// What the next page begins after; absent where this is the last.
    next: Option<String>,
}

impl From<lumbo_store::ContactPage> for ContactPage {
    fn from(from: lumbo_store::ContactPage) -> Self {
        Self { contacts: from.contacts.into_iter().map(Into::into).collect(), next: from.next }
    }
}

/// A line of the list of companies.
#[derive(Debug, Clone, Serialize, JsonSchema)]
pub(crate) struct CompanyRow {
    /// Its id.
    id: Uuid,
    /// Its name on file.
    name: Option<String>,
    /// Its domain.
    domain: Option<String>,
    /// What it is to us.
    standing: Standing,
    /// Name of whoever looks after it.
    owner: Option<String>,
    /// How many contacts it has.
    contacts: i64,
    /// How many leads.
    leads: i64,
    /// How many of them are open.
    open: i64,
    /// When the newest was filed, RFC 3339.
    #[schemars(with = "Option<String>")]
    last_at: Option<Timestamp>,
}

impl From<lumbo_store::CompanyRow> for CompanyRow {
    fn from(from: lumbo_store::CompanyRow) -> Self {
        let lumbo_store::CompanyRow { id, name, domain, standing, owner, contacts, leads, open, last_at } = from;
        Self { id, name, domain, standing, owner, contacts, leads, open, last_at }
    }
}

/// A page of companies, by name.
#[derive(Debug, Clone, Serialize, JsonSchema)]
pub(crate) struct CompanyPage {
    /// The companies, 100 at most.
    companies: Vec<CompanyRow>,
    /// What the next page begins after; absent where this is the last.
    next: Option<String>,
}

impl From<lumbo_store::CompanyPage> for CompanyPage {
    fn from(from: lumbo_store::CompanyPage) -> Self {
        Self { companies: from.companies.into_iter().map(Into::into).collect(), next: from.next }
    }
}

/// Something that is named, with its id.
#[derive(Debug, Clone, Serialize, JsonSchema)]
pub(crate) struct Named {
    /// Its id.
    id: Uuid,
    /// Its name.
    name: String,
}

impl From<(Uuid, String)> for Named {
    fn from((id, name): (Uuid, String)) -> Self {
        Self { id, name }
    }
}

/// Where a value came from.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub(crate) enum CameBy {
    /// A conversation.
    Conversation,
    /// A person of the workspace.
    Person,
    /// A file that was taken in.
    File,
    /// Lumbo itself, or a customer system.
    System,
}

/// A value of a record.
#[derive(Debug, Clone, Serialize, JsonSchema)]
pub(crate) struct RecordValue {
    /// The field by id; a part of who they are begins with an at sign.
    field: String,
    /// Its label.
    label: String,
    /// The value in plain words.
    shown: String,
    /// Where it came from.
    by: CameBy,
    /// Name of the person, or title of the dialogue.
    from: Option<String>,
    /// When, RFC 3339.
    #[schemars(with = "String")]
    at: Timestamp,
    /// What stood there before, in words.
    before: Option<String>,
}

impl From<lumbo_store::ValueRow> for RecordValue {
    fn from(from: lumbo_store::ValueRow) -> Self {
        let by = match from.source {
            Source::Conversation(_) => CameBy::Conversation,
            Source::Person(_) => CameBy::Person,
            Source::File => CameBy::File,
            Source::System => CameBy::System,
        };
        let before = from.before.as_ref().map(in_words).filter(|before| *before != from.shown);
        Self { field: from.field, label: from.label, shown: from.shown, by, from: from.from, at: from.at, before }
    }
}

/// A value of which only its JSON form was kept, in words.
fn in_words(value: &Json) -> String {
    match value {
        Json::Null => String::new(),
        Json::Bool(true) => "yes".to_owned(),
        Json::Bool(false) => "no".to_owned(),
        Json::Number(number) => number.to_string(),
        Json::String(text) => text.clone(),
        Json::Array(items) => items.iter().map(in_words).collect::<Vec<_>>().join(", "),
        Json::Object(map) => map.values().map(in_words).filter(|word| !word.is_empty()).collect::<Vec<_>>().join(" "),
    }
}

/// A lead, as its contact or company shows it.
#[derive(Debug, Clone, Serialize, JsonSchema)]
pub(crate) struct ContactLead {
    /// Its id.
    id: Uuid,
    /// The dialogue's title.
    dialogue: String,
    /// When it was filed, RFC 3339.
    #[schemars(with = "String")]
    filed_at: Timestamp,
    /// Up to four things they want, in words.
    wants: String,
    /// The score.
    total: Option<i64>,
    /// The band's name.
    band: Option<String>,
    /// Place of the band from the lowest, 0; -1 where ruled out.
    band_rank: i32,
    /// The threshold that the band begins at.
    band_from: Option<i64>,
    /// What became of it so far.
    status: LeadStatus,
    /// True where they left before the end.
    unfinished: bool,
    /// Whose it is.
    owner: Option<String>,
    /// The contact's name, as the lead shows it.
    name: Option<String>,
}

impl From<lumbo_store::ContactLead> for ContactLead {
    fn from(from: lumbo_store::ContactLead) -> Self {
        let lumbo_store::ContactLead {
            id,
            dialogue,
            filed_at,
            wants,
            total,
            band,
            band_rank,
            band_from,
            status,
            unfinished,
            owner,
            name,
        } = from;
        Self { id, dialogue, filed_at, wants, total, band, band_rank, band_from, status, unfinished, owner, name }
    }
}

/// Something that was given otherwise than it is on file, and waits for a word.
#[derive(Debug, Clone, Serialize, JsonSchema)]
pub(crate) struct ContactGiven {
    /// What it is.
    what: AlsoGiven,
    /// What was given.
    value: String,
    /// When, RFC 3339.
    #[schemars(with = "String")]
    given_at: Timestamp,
    /// The lead on which it can be settled.
    lead: Uuid,
}

impl From<lumbo_store::ContactGiven> for ContactGiven {
    fn from(from: lumbo_store::ContactGiven) -> Self {
        let lumbo_store::ContactGiven { what, value, given_at, lead } = from;
        Self { what, value, given_at, lead }
    }
}

/// How a contact wants to be reached.
#[derive(Debug, Clone, Serialize, JsonSchema)]
pub(crate) struct Reach {
    /// The way they prefer.
    prefers: Option<Channel>,
    /// Ways they do not want.
    refuses: Vec<Channel>,
    /// Ways for which they withdrew their permission.
    withdrawn: Vec<Channel>,
    /// Who kept it.
    by: Option<String>,
    /// When, RFC 3339.
    #[schemars(with = "Option<String>")]
    at: Option<Timestamp>,
}

impl From<lumbo_store::Reach> for Reach {
    fn from(from: lumbo_store::Reach) -> Self {
        let lumbo_store::Reach { prefers, refuses, withdrawn, by, at } = from;
        Self { prefers, refuses, withdrawn, by, at }
    }
}

/// A word that somebody said of being reached.
#[derive(Debug, Clone, Serialize, JsonSchema)]
pub(crate) struct PermissionRow {
    /// For what.
    purpose: Purpose,
    /// In which way.
    channel: Channel,
    /// True where it was given, false where it was withdrawn or refused.
    given: bool,
    /// When, RFC 3339.
    #[schemars(with = "String")]
    at: Timestamp,
    /// True where it is the last word for its purpose and way.
    stands: bool,
    /// Title of the dialogue that asked.
    dialogue: Option<String>,
    /// Version of the wording that was shown.
    wording: Option<i32>,
    /// Name of whoever here kept it.
    person: Option<String>,
    /// On what ground, where somebody here kept it.
    says: String,
}

impl From<lumbo_store::PermissionRow> for PermissionRow {
    fn from(from: lumbo_store::PermissionRow) -> Self {
        let lumbo_store::PermissionRow { word, stands, dialogue, wording, person, says } = from;
        let lumbo_records::Permission { purpose, channel, given, at } = word;
        Self { purpose, channel, given, at, stands, dialogue, wording, person, says }
    }
}

/// A contact with everything.
#[derive(Debug, Clone, Serialize, JsonSchema)]
pub(crate) struct ContactDetail {
    /// Its id.
    id: Uuid,
    /// Name on file.
    name: Option<String>,
    /// E-mail address on file.
    email: Option<String>,
    /// Phone number on file, E.164.
    phone: Option<String>,
    /// True where the firm's own site knows them.
    known_on_site: bool,
    /// The company.
    company: Option<Named>,
    /// What the company is to us.
    standing: Standing,
    /// How they want to be reached.
    reach: Reach,
    /// When the first of them was filed, RFC 3339.
    #[schemars(with = "String")]
    made_at: Timestamp,
    /// What they permitted and withdrew, the newest first.
    permissions: Vec<PermissionRow>,
    /// Words that people put on them.
    tags: Vec<String>,
    /// Values with where they came from.
    values: Vec<RecordValue>,
    /// Their leads, the newest first.
    leads: Vec<ContactLead>,
    /// What was also given and waits for a word.
    given: Vec<ContactGiven>,
    /// Contacts that became one with it, and can be two again.
    merges: Vec<MergeRow>,
}

/// Two contacts that became one.
#[derive(Debug, Clone, Serialize, JsonSchema)]
pub(crate) struct MergeRow {
    /// Its id.
    id: Uuid,
    /// Name of the one that went.
    gone: Option<String>,
    /// Who did it.
    by: Option<String>,
    /// When, RFC 3339.
    #[schemars(with = "String")]
    at: Timestamp,
}

impl From<lumbo_store::MergeRow> for MergeRow {
    fn from(from: lumbo_store::MergeRow) -> Self {
        let lumbo_store::MergeRow { id, gone, by, at } = from;
        Self { id, gone, by, at }
    }
}

/// A contact that may be the same person.
#[derive(Debug, Clone, Serialize, JsonSchema)]
pub(crate) struct AlikeRow {
    /// Its id.
    id: Uuid,
    /// Name on file.
    name: Option<String>,
    /// E-mail address on file.
    email: Option<String>,
    /// Phone number on file.
    phone: Option<String>,
    /// The company's name.
    company: Option<String>,
    /// How many leads of theirs there are.
    leads: i64,
    /// Why they may be one.
    why: Alike,
}

impl From<lumbo_store::AlikeRow> for AlikeRow {
    fn from(from: lumbo_store::AlikeRow) -> Self {
        let lumbo_store::AlikeRow { id, name, email, phone, company, leads, why } = from;
        Self { id, name, email, phone, company, leads, why }
    }
}

/// A field of two contacts, and what would be kept.
#[derive(Debug, Clone, Serialize, JsonSchema)]
pub(crate) struct MergeLine {
    /// The field by id.
    field: String,
    /// Its label.
    label: String,
    /// What the one that stays has.
    stays: Option<String>,
    /// What the one that goes has.
    goes: Option<String>,
    /// What is kept.
    keeps: Takes,
    /// What is kept, in words.
    shown: String,
}

/// What making two contacts one would do.
#[derive(Debug, Clone, Serialize, JsonSchema)]
pub(crate) struct MergePreview {
    /// Field by field.
    lines: Vec<MergeLine>,
    /// How many leads move.
    leads: i64,
}

impl From<lumbo_store::MergePreview> for MergePreview {
    fn from(from: lumbo_store::MergePreview) -> Self {
        let line = |line: lumbo_store::MergeLine| {
            let lumbo_store::MergeLine { field, label, stays, goes, keeps, shown } = line;
            MergeLine { field, label, stays, goes, keeps, shown }
        };
        Self { lines: from.lines.into_iter().map(line).collect(), leads: from.leads }
    }
}

impl From<lumbo_store::ContactDetail> for ContactDetail {
    fn from(from: lumbo_store::ContactDetail) -> Self {
        Self {
            id: from.id,
            name: from.name,
            email: from.email,
            phone: from.phone,
            known_on_site: from.known_on_site,
            company: from.company.map(Into::into),
            standing: from.standing,
            reach: from.reach.into(),
            permissions: from.permissions.into_iter().map(Into::into).collect(),
            tags: from.tags,
            made_at: from.made_at,
            values: from.values.into_iter().map(Into::into).collect(),
            leads: from.leads.into_iter().map(Into::into).collect(),
            given: from.given.into_iter().map(Into::into).collect(),
            merges: from.merges.into_iter().map(Into::into).collect(),
        }
    }
}

/// Somebody at a company.
#[derive(Debug, Clone, Serialize, JsonSchema)]
pub(crate) struct CompanyContact {
    /// Their id.
    id: Uuid,
    /// Name on file.
    name: Option<String>,
    /// E-mail address on file.
    email: Option<String>,
    /// Phone number on file, E.164.
    phone: Option<String>,
    /// How many leads of theirs there are.
    leads: i64,
}

impl From<lumbo_store::CompanyContact> for CompanyContact {
    fn from(from: lumbo_store::CompanyContact) -> Self {
        let lumbo_store::CompanyContact { id, name, email, phone, leads } = from;
        Self { id, name, email, phone, leads }
    }
}

/// A company with everything.
#[derive(Debug, Clone, Serialize, JsonSchema)]
pub(crate) struct CompanyDetail {
    /// Its id.
    id: Uuid,
    /// Its name on file.
    name: Option<String>,
    /// Its domain.
    domain: Option<String>,
    /// What it is to us.
    standing: Standing,
    /// Who looks after it.
    owner: Option<Named>,
    /// When the first of it was filed, RFC 3339.
    #[schemars(with = "String")]
    made_at: Timestamp,
    /// Values with where they came from.
    values: Vec<RecordValue>,
    /// Its people, by name; 200 at most.
    contacts: Vec<CompanyContact>,
    /// Its leads, the newest first.
    leads: Vec<ContactLead>,
}

impl From<lumbo_store::CompanyDetail> for CompanyDetail {
    fn from(from: lumbo_store::CompanyDetail) -> Self {
        Self {
            id: from.id,
            name: from.name,
            domain: from.domain,
            standing: from.standing,
            owner: from.owner.map(Into::into),
            made_at: from.made_at,
            values: from.values.into_iter().map(Into::into).collect(),
            contacts: from.contacts.into_iter().map(Into::into).collect(),
            leads: from.leads.into_iter().map(Into::into).collect(),
        }
    }
}

/// What erasing somebody blanks.
#[derive(Debug, Clone, Serialize, JsonSchema)]
pub(crate) struct Erasure {
    /// Conversations.
    conversations: usize,
    /// Leads.
    leads: usize,
    /// Places outside that are told to erase it too.
    told: usize,
}

impl From<lumbo_store::Erased> for Erasure {
    fn from(from: lumbo_store::Erased) -> Self {
        let lumbo_store::Erased { conversations, leads, told } = from;
        Self { conversations, leads, told }
    }
}

/// How long a workspace keeps what it is told.
#[derive(Debug, Clone, Copy, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(rename = "DataKeeping")]
pub(crate) struct Keeping {
    /// Days that a conversation is kept of which no lead came.
    pub(crate) unreached_days: i32,
    /// Days that a lead is kept that was left unfinished and not worked since.
    pub(crate) unfinished_days: i32,
    /// Months that a lead is kept after the last that happened with it.
    pub(crate) lead_months: i32,
}

impl From<lumbo_store::Keeping> for Keeping {
    fn from(from: lumbo_store::Keeping) -> Self {
        let lumbo_store::Keeping { unreached_days, unfinished_days, lead_months } = from;
        Self { unreached_days, unfinished_days, lead_months }
    }
}

impl From<Keeping> for lumbo_store::Keeping {
    fn from(from: Keeping) -> Self {
        let Keeping { unreached_days, unfinished_days, lead_months } = from;
        Self { unreached_days, unfinished_days, lead_months }
    }
}

#[cfg(test)]
mod tests {
    use serde_json::json;

    use super::*;

    #[test]
    fn what_stood_there_before_is_said_in_words() {
        assert_eq!(in_words(&json!("frozen")), "frozen");
        assert_eq!(in_words(&json!(340)), "340");
        assert_eq!(in_words(&json!(true)), "yes");
        assert_eq!(in_words(&json!(["a", "b"])), "a, b");
        assert_eq!(in_words(&json!({"amount": "12.50", "currency": "GBP"})), "12.50 GBP");
    }
}
