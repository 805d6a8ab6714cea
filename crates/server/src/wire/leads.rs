//! Leads as they cross.

use std::collections::BTreeMap;

use jiff::Timestamp;
use jiff::civil::Date;
use lumbo_dialogue::score::ScoreResult;
use lumbo_records::{AlsoGiven, CallOutcome, LeadStatus, NextWhat, NotGiven, RecordField, Standing};
use lumbo_route::words;
use lumbo_store::TranscriptLine;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use uuid::Uuid;

use super::mails::MailRow;
use super::records::Reach;

/// A line of a list of leads.
#[derive(Debug, Clone, Serialize, JsonSchema)]
pub(crate) struct LeadRow {
    /// Its id.
    pub(crate) id: Uuid,
    /// The prospect's name, as this lead's conversation gave it.
    pub(crate) name: Option<String>,
    /// The company's name, as this lead's conversation gave it.
    pub(crate) company: Option<String>,
    /// Up to four things they want, in words.
    pub(crate) wants: String,
    /// The score.
    pub(crate) total: Option<i64>,
    /// The band's name.
    pub(crate) band: Option<String>,
    /// Place of the band from the lowest, 0; -1 where the lead was ruled out.
    pub(crate) band_rank: i32,
    /// The threshold that the band begins at.
    pub(crate) band_from: Option<i64>,
    /// What became of it so far.
    pub(crate) status: LeadStatus,
    /// The queue's name.
    pub(crate) queue: Option<String>,
    /// The owner's name.
    pub(crate) owner: Option<String>,
    /// True where the owner is the one who asks.
    pub(crate) mine: bool,
    /// When it was filed, RFC 3339.
    #[schemars(with = "String")]
    pub(crate) filed_at: Timestamp,
    /// When to call at the latest, RFC 3339; absent without a target.
    #[schemars(with = "Option<String>")]
    pub(crate) call_by: Option<Timestamp>,
    /// Phone number, E.164.
    pub(crate) phone: Option<String>,
    /// How often it was tried.
    pub(crate) tries: i32,
    /// How often it is tried at most.
    pub(crate) tries_planned: i32,
    /// What comes next; nothing on a closed one.
    pub(crate) next_what: Option<NextWhat>,
    /// When, RFC 3339.
    #[schemars(with = "Option<String>")]
    pub(crate) next_at: Option<Timestamp>,
    /// True where they left before the end.
    pub(crate) unfinished: bool,
    /// IANA name of the zone that their clock shows, where it is known.
    pub(crate) zone: Option<String>,
    /// When they can be called again, where a call is next and it is outside calling hours there, RFC 3339.
    #[schemars(with = "Option<String>")]
    pub(crate) callable_at: Option<Timestamp>,
    /// Words that people put on it.
    pub(crate) tags: Vec<String>,
    /// What it says in the columns that were asked for, in their order; empty where nothing was said.
    pub(crate) cells: Vec<String>,
}

impl From<lumbo_store::LeadRow> for LeadRow {
    fn from(from: lumbo_store::LeadRow) -> Self {
        let lumbo_store::LeadRow {
            id,
            name,
            company,
            wants,
            total,
            band,
            band_rank,
            band_from,
            status,
            queue,
            owner,
            mine,
            filed_at,
            call_by,
            phone,
            tries,
            tries_planned,
            next_what,
            next_at,
            unfinished,
            zone,
            callable_at,
            tags,
            cells,
        } = from;
        Self {
            id,
            name,
            company,
            wants,
            total,
            band,
            band_rank,
            band_from,
            status,
            queue,
            owner,
            mine,
            filed_at,
            call_by,
            phone,
            tries,
            tries_planned,
            next_what,
            next_at,
            unfinished,
            zone,
            callable_at,
            tags,
            cells,
        }
    }
}

/// A page of leads.
#[derive(Debug, Clone, Serialize, JsonSchema)]
pub(crate) struct LeadPage {
    /// The leads, in the order to call; 100 at most.
    pub(crate) leads: Vec<LeadRow>,
    /// What the next page begins after; absent where this is the last.
    pub(crate) next: Option<String>,
}

impl From<lumbo_store::LeadPage> for LeadPage {
    fn from(from: lumbo_store::LeadPage) -> Self {
        let lumbo_store::LeadPage { leads, next } = from;
        Self { leads: leads.into_iter().map(Into::into).collect(), next }
    }
}

/// An entry of a lead's timeline.
#[derive(Debug, Clone, Serialize, JsonSchema)]
pub(crate) struct LogRow {
    /// When, RFC 3339.
    #[schemars(with = "String")]
    pub(crate) at: Timestamp,
    /// Who; nobody for what Lumbo did.
    pub(crate) person: Option<String>,
    /// What kind of thing: filing, conversation, call, status, record.
    pub(crate) kind: String,
    /// What, in words.
    pub(crate) what: String,
}

impl From<lumbo_store::LogRow> for LogRow {
    fn from(from: lumbo_store::LogRow) -> Self {
        let lumbo_store::LogRow { at, person, kind, what } = from;
        Self { at, person, kind, what }
    }
}

/// One conversation of a lead.
#[derive(Debug, Clone, Serialize, JsonSchema)]
pub(crate) struct SnapshotRow {
    /// The conversation.
    pub(crate) conversation: Uuid,
    /// When it was filed, RFC 3339.
    #[schemars(with = "String")]
    pub(crate) filed_at: Timestamp,
    /// The band's name.
    pub(crate) band: Option<String>,
    /// The score.
    pub(crate) total: Option<i64>,
    /// Up to four things they want, in words.
    pub(crate) wants: String,
    /// True for the one whose answers the lead shows.
    pub(crate) shown: bool,
    /// True where its newer answers wait for a person's word.
    pub(crate) waits: bool,
}

impl From<lumbo_store::SnapshotRow> for SnapshotRow {
    fn from(from: lumbo_store::SnapshotRow) -> Self {
        let lumbo_store::SnapshotRow { conversation, filed_at, band, total, wants, shown, waits } = from;
        Self { conversation, filed_at, band, total, wants, shown, waits }
    }
}

/// Something a conversation gave that differs from what is on file.
#[derive(Debug, Clone, Serialize, JsonSchema)]
pub(crate) struct AlsoGivenRow {
    /// Its id.
    pub(crate) id: Uuid,
    /// What it is.
    pub(crate) what: AlsoGiven,
    /// What was given.
    pub(crate) value: String,
    /// What is on file.
    pub(crate) on_file: Option<String>,
    /// When it was given, RFC 3339.
    #[schemars(with = "String")]
    pub(crate) given_at: Timestamp,
}

impl From<lumbo_store::AlsoGivenRow> for AlsoGivenRow {
    fn from(from: lumbo_store::AlsoGivenRow) -> Self {
        let lumbo_store::AlsoGivenRow { id, what, value, on_file, given_at } = from;
        Self { id, what, value, on_file, given_at }
    }
}

/// What somebody owes on a lead.
#[derive(Debug, Clone, Serialize, JsonSchema)]
pub(crate) struct TaskRow {
    /// Its id.
    id: Uuid,
    /// The lead.
    lead: Uuid,
    /// The lead's name.
    name: Option<String>,
    /// The lead's company.
    company: Option<String>,
    /// What is owed.
    says: String,
    /// By when, RFC 3339.
    #[schemars(with = "String")]
    due_at: Timestamp,
    /// When it was done.
    #[schemars(with = "Option<String>")]
    done_at: Option<Timestamp>,
    /// Who owes it.
    person: String,
    /// True where that is whoever asks.
    mine: bool,
}

impl From<lumbo_store::TaskRow> for TaskRow {
    fn from(from: lumbo_store::TaskRow) -> Self {
        let lumbo_store::TaskRow { id, lead, name, company, says, due_at, done_at, person, mine } = from;
        Self { id, lead, name, company, says, due_at, done_at, person, mine }
    }
}

/// A lead with everything a rep needs.
#[derive(Debug, Clone, Serialize, JsonSchema)]
pub(crate) struct LeadDetail {
    /// As in the list.
    pub(crate) row: LeadRow,
    /// Its revision; a change names it.
    pub(crate) revision: i64,
    /// Why it was lost, is not a fit or no lead.
    pub(crate) reason: Option<String>,
    /// What it was won for, a decimal number.
    pub(crate) amount: Option<String>,
    /// ISO 4217 code of the amount.
    pub(crate) currency: Option<String>,
    /// When to call again, a date.
    pub(crate) later_on: Option<String>,
    /// Whether it was a fit after all, by a rep's word.
    pub(crate) fits: Option<bool>,
    /// Id of the criterion that misled.
    pub(crate) misled: Option<String>,
    /// E-mail address, as this lead's conversation gave it.
    pub(crate) email: Option<String>,
    /// Phone number, E.164, as this lead's conversation gave it.
    pub(crate) phone: Option<String>,
    /// What they told us.
    pub(crate) fields: Vec<RecordField>,
    /// What it must carry and lacks, in words.
    pub(crate) lacks: Vec<String>,
    /// What was asked for and not given.
    pub(crate) not_given: Vec<NotGiven>,
    /// Why they qualify.
    pub(crate) score: Option<ScoreResult>,
    /// Why it is whose it is: the steps of routing, as sentences.
    pub(crate) decision: Vec<String>,
    /// In their words.
    pub(crate) transcript: Vec<TranscriptLine>,
    /// The dialogue's title.
    pub(crate) dialogue: String,
    /// Number of the release.
    pub(crate) release: i32,
    /// Its conversations, the first one first.
    pub(crate) conversations: Vec<SnapshotRow>,
    /// What differs from what is on file and waits for a person's word.
    pub(crate) also_given: Vec<AlsoGivenRow>,
    /// What happened so far.
    pub(crate) log: Vec<LogRow>,
    /// Working minutes from filing to the first try.
    pub(crate) first_try_minutes: Option<i64>,
    /// Working minutes from filing to the first contact.
    pub(crate) first_contact_minutes: Option<i64>,
    /// Whether the one who asks can take their last step back.
    pub(crate) step_back: bool,
    /// Where its conversation came from.
    pub(crate) came: CameFrom,
    /// The question that was left open, where it was left unfinished.
    pub(crate) left_at: Option<String>,
    /// Mails that people wrote from it, the newest first.
    pub(crate) mails: Vec<MailRow>,
    /// What people owe on it, open tasks first.
    pub(crate) tasks: Vec<TaskRow>,
    /// The contact.
    pub(crate) contact: Uuid,
    /// How they want to be reached.
    pub(crate) reach: Reach,
    /// Where else it is kept.
    pub(crate) elsewhere: Vec<Elsewhere>,
    /// The company on file.
    pub(crate) company: Option<CompanyOfLead>,
}

/// A record of a lead at a customer system.
#[derive(Debug, Clone, Serialize, JsonSchema)]
pub(crate) struct Elsewhere {
    /// The customer system's name.
    name: String,
    /// Where people see it there.
    link: String,
}

/// The company of a lead, as it is on file.
#[derive(Debug, Clone, Serialize, JsonSchema)]
pub(crate) struct CompanyOfLead {
    /// Its id.
    id: Uuid,
    /// Its name on file.
    name: String,
    /// What it is to us.
    standing: Standing,
}

/// Where a conversation came from.
#[derive(Debug, Clone, Serialize, JsonSchema)]
pub(crate) struct CameFrom {
    /// Name of the placement it was started in.
    placement: Option<String>,
    /// The page it was started on.
    page: Option<String>,
    /// Where they came to that page from.
    referrer: Option<String>,
    /// Their first page on the site, where it was another one.
    first_page: Option<String>,
    /// Where they came to the site from.
    first_referrer: Option<String>,
    /// The campaign, with its source and means.
    campaign: Option<String>,
    /// Query parameters that were carried along, by name.
    carried: BTreeMap<String, String>,
    /// The kind of device.
    device: Option<String>,
    /// The country, ISO 3166-1 alpha-2, as a hint.
    country: Option<String>,
}

impl From<lumbo_store::Came> for CameFrom {
    fn from(came: lumbo_store::Came) -> Self {
        let at = came.context;
        let campaign: Vec<String> =
            [at.campaign, at.campaign_source, at.campaign_medium].into_iter().flatten().collect();
        Self {
            placement: came.placement,
            first_page: at.first_page.filter(|first| Some(first) != at.page.as_ref()),
            page: at.page,
            referrer: at.referrer,
            first_referrer: at.first_referrer,
            campaign: (!campaign.is_empty()).then(|| campaign.join(", ")),
            carried: at.carried,
            device: at.device,
            country: at.country,
        }
    }
}

impl From<lumbo_store::LeadDetail> for LeadDetail {
    fn from(from: lumbo_store::LeadDetail) -> Self {
        let lumbo_store::LeadDetail {
            row,
            revision,
            reason,
            amount,
            currency,
            later_on,
            fits,
            misled,
            email,
            phone,
            fields,
            lacks,
            not_given,
            score,
            decision,
            queue_names,
            transcript,
            dialogue_id: _,
            dialogue,
            release,
            conversations,
            also_given,
            log,
            first_try_minutes,
            first_contact_minutes,
            step_back,
            came,
            left_at,
            mails,
            tasks,
            contact,
            reach,
            elsewhere,
            company,
        } = from;
        Self {
            row: row.into(),
            revision,
            reason,
            amount,
            currency,
            later_on,
            fits,
            misled,
            email,
            phone,
            fields,
            lacks,
            not_given,
            score,
            decision: words::says(&decision, &|key| queue_names.get(key).cloned()),
            transcript,
            dialogue,
            release,
            conversations: conversations.into_iter().map(Into::into).collect(),
            also_given: also_given.into_iter().map(Into::into).collect(),
            log: log.into_iter().map(Into::into).collect(),
            first_try_minutes,
            first_contact_minutes,
            step_back,
            came: came.into(),
            left_at,
            mails: mails.into_iter().map(Into::into).collect(),
            tasks: tasks.into_iter().map(Into::into).collect(),
            contact,
            reach: reach.into(),
            elsewhere: elsewhere.into_iter().map(|(name, link)| Elsewhere { name, link }).collect(),
            company: company.map(|(id, name, standing)| CompanyOfLead { id, name, standing }),
        }
    }
}

/// Which leads a list shows.
#[derive(Debug, Clone, Copy, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub(crate) enum LeadFilter {
    /// Open and mine.
    Mine,
    /// Open, in a queue of mine, and nobody's.
    Queue,
    /// Open, and left before the end.
    Unfinished,
    /// Everything I may see, closed ones too.
    All,
}

impl From<LeadFilter> for lumbo_store::LeadFilter {
    fn from(from: LeadFilter) -> Self {
        match from {
            LeadFilter::Mine => Self::Mine,
            LeadFilter::Queue => Self::Queue,
            LeadFilter::Unfinished => Self::Unfinished,
            LeadFilter::All => Self::All,
        }
    }
}

impl From<lumbo_store::LeadFilter> for LeadFilter {
    fn from(from: lumbo_store::LeadFilter) -> Self {
        match from {
            lumbo_store::LeadFilter::Mine => Self::Mine,
            lumbo_store::LeadFilter::Queue => Self::Queue,
            lumbo_store::LeadFilter::Unfinished => Self::Unfinished,
            lumbo_store::LeadFilter::All => Self::All,
        }
    }
}

/// What became of a lead.
#[derive(Debug, Clone, PartialEq, Eq, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct OutcomeChange {
    /// The revision that was looked at.
    pub(crate) revision: i64,
    /// The status it has from now on.
    pub(crate) status: LeadStatus,
    /// Why, for lost, not a fit and no lead; 500 characters at most.
    #[serde(default)]
    pub(crate) reason: Option<String>,
    /// What it was won for, a decimal number that is not negative.
    #[serde(default)]
    pub(crate) amount: Option<String>,
    /// ISO 4217 code of the amount.
    #[serde(default)]
    pub(crate) currency: Option<String>,
    /// When to call again, for later.
    #[serde(default)]
    #[schemars(with = "Option<String>")]
    pub(crate) later_on: Option<Date>,
}

impl From<OutcomeChange> for lumbo_store::OutcomeChange {
    fn from(from: OutcomeChange) -> Self {
        let OutcomeChange { revision, status, reason, amount, currency, later_on } = from;
        Self { revision, status, reason, amount, currency, later_on }
    }
}

/// A person's word on something that was also given.
#[derive(Debug, Clone, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct AlsoGivenChange {
    /// True to put it on file, false to leave what is there.
    pub(crate) accepted: bool,
}

impl From<AlsoGivenChange> for lumbo_store::AlsoGivenChange {
    fn from(from: AlsoGivenChange) -> Self {
        let AlsoGivenChange { accepted } = from;
        Self { accepted }
    }
}

/// A call that was made.
#[derive(Debug, Clone, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct Call {
    /// The revision that was looked at.
    pub(crate) revision: i64,
    /// What came of it.
    pub(crate) outcome: CallOutcome,
    /// What was said, in the rep's words; 2,000 characters at most.
    #[serde(default)]
    pub(crate) note: Option<String>,
}

/// When what comes next is, by a person's word.
#[derive(Debug, Clone, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct NextChange {
    /// The revision that was looked at.
    pub(crate) revision: i64,
    /// When, RFC 3339.
    #[schemars(with = "String")]
    pub(crate) at: Timestamp,
}

/// Whose a lead is from now on.
#[derive(Debug, Clone, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct OwnerChange {
    /// The revision that was looked at.
    pub(crate) revision: i64,
    /// The one who takes it.
    pub(crate) to: Uuid,
    /// What they should know; 2,000 characters at most.
    #[serde(default)]
    pub(crate) note: Option<String>,
}

/// Something written about a lead.
#[derive(Debug, Clone, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct Note {
    /// The words; 2,000 characters at most.
    pub(crate) text: String,
}

/// Somebody who can take a lead.
#[derive(Debug, Clone, Serialize, JsonSchema)]
pub(crate) struct Taker {
    /// Id.
    pub(crate) id: Uuid,
    /// Name.
    pub(crate) name: String,
    /// True while they take no new leads.
    pub(crate) paused: bool,
}

impl From<lumbo_store::Taker> for Taker {
    fn from(from: lumbo_store::Taker) -> Self {
        let lumbo_store::Taker { id, name, paused } = from;
        Self { id, name, paused }
    }
}
