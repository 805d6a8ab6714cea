//! What a webhook carries. A missing value is absent: never null, zero or empty.

use std::collections::BTreeMap;

use jiff::Timestamp;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use serde_json::Value as Json;

/// What happened.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize, JsonSchema)]
pub enum EventKind {
    /// A lead was filed.
    #[serde(rename = "lead.filed")]
    LeadFiled,
    /// A lead got newer answers.
    #[serde(rename = "lead.updated")]
    LeadUpdated,
    /// A person said what became of a lead, or called.
    #[serde(rename = "lead.status")]
    LeadStatus,
    /// The person behind a lead was erased: nothing of them may be kept on. Every place is told that got something of
    /// theirs, whatever it chose.
    #[serde(rename = "contact.erased")]
    ContactErased,
}

impl EventKind {
    /// Every kind, in the order in which they are offered.
    pub const ALL: [Self; 4] = [Self::LeadFiled, Self::LeadUpdated, Self::LeadStatus, Self::ContactErased];

    /// Its name in the database and outside.
    #[must_use]
    pub fn as_str(self) -> &'static str {
        match self {
            Self::LeadFiled => "lead.filed",
            Self::LeadUpdated => "lead.updated",
            Self::LeadStatus => "lead.status",
            Self::ContactErased => "contact.erased",
        }
    }

    /// The kind of a name.
    #[must_use]
    pub fn parse(text: &str) -> Option<Self> {
        Self::ALL.into_iter().find(|kind| kind.as_str() == text)
    }
}

/// One event, as it is sent.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Event {
    /// What happened.
    #[serde(rename = "type")]
    pub kind: EventKind,
    /// When it happened, RFC 3339.
    #[schemars(with = "String")]
    pub timestamp: Timestamp,
    /// The lead, as it was at the first attempt to send it.
    pub data: LeadData,
}

/// A score.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct Score {
    /// Points.
    pub total: i64,
    /// The band's name; absent where the lead was ruled out.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub band: Option<String>,
}

/// Who has a lead.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct Owner {
    /// Name.
    pub name: String,
    /// Address.
    pub email: String,
}

/// A line of what was said.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct Said {
    /// `prospect` or `dialogue`.
    pub who: String,
    /// The words, with their line breaks.
    pub text: String,
}

/// Where a conversation came from.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct Came {
    /// The page it was begun on, without its query.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub page: Option<String>,
    /// The first page of the visit, as far as consent let one keep it.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub first_page: Option<String>,
    /// Where they came from.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub referrer: Option<String>,
    /// The campaign.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub campaign: Option<String>,
}

impl Came {
    /// Whether nothing is known.
    #[must_use]
    pub fn is_empty(&self) -> bool {
        *self == Self::default()
    }
}

/// A lead.
#[derive(Debug, Clone, Default, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct LeadData {
    /// Its id.
    pub id: String,
    /// Counts its changes: of two events, the higher one is newer.
    pub revision: i64,
    /// Where a person sees it.
    pub link: String,
    /// The dialogue's title.
    pub dialogue: String,
    /// Number of its release.
    pub release: i32,
    /// When it was filed, RFC 3339.
    pub filed_at: String,
    /// What became of it: `new`, `trying`, `spoken`, `booked`, `accepted`, `later`, `won`, `lost`, `not_a_fit`,
    /// `not_reached` or `junk`.
    pub status: String,
    /// Why, where somebody said.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub reason: Option<String>,
    /// What it was won for, a decimal number.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub amount: Option<String>,
    /// ISO 4217 code of the amount.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub currency: Option<String>,
    /// The prospect's name.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub name: Option<String>,
    /// E-mail address.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub email: Option<String>,
    /// Phone number, E.164.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub phone: Option<String>,
    /// The company's name.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub company: Option<String>,
    /// The company's domain, where it is known by one.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub domain: Option<String>,
    /// Where it came from.
    #[serde(default, skip_serializing_if = "Came::is_empty")]
    pub came: Came,
    /// Up to four things they want, in words.
    #[serde(default, skip_serializing_if = "String::is_empty")]
    pub wants: String,
    /// Points and band.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub score: Option<Score>,
    /// The queue's name.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub queue: Option<String>,
    /// Who has it.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub owner: Option<Owner>,
    /// Answers by field key, as documented for dialogue files; a missing answer is absent.
    pub fields: BTreeMap<String, Json>,
    /// What was said.
    pub transcript: Vec<Said>,
    /// True where they left before the end.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub unfinished: bool,
    /// True for a test that a person sent from the settings.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub test: bool,
}

/// Longest text of a chat alert, characters.
const CHAT_LIMIT: usize = 500;

/// One short message about a lead: who, what they want, how good it is, and where to see it.
#[must_use]
pub fn chat_text(event: &Event) -> String {
    let lead = &event.data;
    let who = match (&lead.name, &lead.company) {
        (Some(name), Some(company)) => format!("{name}, {company}"),
        (Some(one), None) | (None, Some(one)) => one.clone(),
        (None, None) => "Somebody".to_owned(),
    };
    let band =
        lead.score.as_ref().and_then(|score| score.band.as_ref().map(|band| format!("{band} ({})", score.total)));
    let parts = [
        Some(match event.kind {
            EventKind::LeadFiled if lead.unfinished => format!("{who} left before the end"),
            EventKind::LeadFiled => who,
            EventKind::LeadUpdated => format!("{who} said more"),
            EventKind::LeadStatus => format!("{who}: {}", lead.status.replace('_', " ")),
            EventKind::ContactErased => {
                "Somebody was erased: please delete what was written about this lead".to_owned()
            }
        }),
        band,
        Some(lead.wants.clone()).filter(|wants| !wants.is_empty()),
        lead.phone.clone(),
        lead.owner.as_ref().map(|owner| format!("for {}", owner.name)),
    ];
    // One line: what a prospect typed must not make a second message of it.
    let line =
        parts.into_iter().flatten().collect::<Vec<_>>().join(" · ").split_whitespace().collect::<Vec<_>>().join(" ");
    let short: String = line.chars().take(CHAT_LIMIT).collect();
    format!("{}{short}\n{}", if lead.test { "Test: " } else { "" }, lead.link)
}

#[cfg(test)]
#[allow(clippy::unwrap_used, reason = "tests")]
mod tests {
    use super::*;

    fn event() -> Event {
        Event {
            kind: EventKind::LeadFiled,
            timestamp: "2026-11-24T10:00:00Z".parse().unwrap(),
            data: LeadData {
                id: "1".into(),
                revision: 1,
                link: "https://lumbo.example/leads/1".into(),
                name: Some("Ana\nRuiz".into()),
                wants: "40 pallets".into(),
                score: Some(Score { total: 82, band: Some("Hot".into()) }),
                phone: Some("+442079460018".into()),
                status: "new".into(),
                ..LeadData::default()
            },
        }
    }

    #[test]
    fn what_is_missing_is_absent() {
        let json = serde_json::to_value(event()).unwrap();
        assert_eq!(json["type"], "lead.filed");
        let data = json["data"].as_object().unwrap();
        for absent in ["reason", "amount", "email", "company", "queue", "owner", "test"] {
            assert!(!data.contains_key(absent), "{absent}");
        }
        assert!(!json.to_string().contains("null"), "{json}");
        assert_eq!(serde_json::from_value::<Event>(json).unwrap(), event());
    }

    #[test]
    fn what_is_sent_fits_the_published_schema() {
        let schema = serde_json::to_value(schemars::schema_for!(Event)).unwrap();
        let validator = jsonschema::validator_for(&schema).unwrap();
        assert!(validator.is_valid(&serde_json::to_value(event()).unwrap()));
        let mut wrong = serde_json::to_value(event()).unwrap();
        wrong["type"] = "lead.gone".into();
        assert!(!validator.is_valid(&wrong));
    }

    #[test]
    fn a_chat_alert_is_one_line_and_a_link_whatever_they_typed() {
        assert_eq!(
            chat_text(&event()),
            "Ana Ruiz · Hot (82) · 40 pallets · +442079460018\nhttps://lumbo.example/leads/1"
        );
        let mut long = event();
        long.data.name = Some("x\n".repeat(5_000));
        assert!(chat_text(&long).chars().count() < 600 && chat_text(&long).lines().count() == 2);
    }

    #[test]
    fn a_kind_goes_by_one_name() {
        for kind in EventKind::ALL {
            assert_eq!(serde_json::to_value(kind).unwrap(), kind.as_str());
            assert_eq!(EventKind::parse(kind.as_str()), Some(kind));
        }
    }
}
