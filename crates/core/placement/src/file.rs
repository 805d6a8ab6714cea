//! A placement as it is written.

use std::collections::BTreeMap;

use jiff::civil::Date;
use lumbo_calendar::Written;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use crate::visit::Device;

/// Tag of the file format.
pub const FORMAT: &str = "lumbo.placements/1";

/// Placements as `lumbo place` reads them, in the workspace's order.
#[derive(Debug, Clone, Default, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct PlacementsFile {
    /// `lumbo.placements/1`.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub format: Option<String>,
    /// The placements; of several that fit, the first goes.
    pub placements: Vec<Placement>,
    /// IANA zone in which dates begin and end; UTC where none is named.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub zone: Option<String>,
    /// Calendars by the key that `hours_of` names.
    #[serde(default, skip_serializing_if = "BTreeMap::is_empty")]
    pub calendars: BTreeMap<String, Written>,
}

/// JSON Schema of [`PlacementsFile`].
#[must_use]
pub fn schema() -> schemars::Schema {
    schemars::schema_for!(PlacementsFile)
}

const fn yes() -> bool {
    true
}

/// A placement: where, when, to whom and how a dialogue shows.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Placement {
    /// Names it among the others.
    pub id: String,
    /// Its name for people; its id where there is none.
    #[serde(default, skip_serializing_if = "String::is_empty")]
    pub name: String,
    /// False while it is off air.
    #[serde(default = "yes")]
    pub on_air: bool,
    /// How it stands on a page.
    pub form: Form,
    /// For an inline frame: the NAME of `<div data-lumbo="NAME">`.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub slot: Option<String>,
    /// On which pages.
    #[serde(default, rename = "where")]
    pub places: Where,
    /// To whom.
    #[serde(default)]
    pub who: Who,
    /// When it may show.
    #[serde(default)]
    pub when: When,
    /// When it opens and as what, on tablets and computers.
    #[serde(default)]
    pub opens: Opens,
    /// The same on phones; a phone's page is never covered unasked.
    #[serde(default)]
    pub opens_on_phones: Opens,
    /// How it looks.
    #[serde(default)]
    pub look: Look,
    /// How it behaves.
    #[serde(default)]
    pub manners: Manners,
}

impl Placement {
    /// One that is just begun: every page of no site yet.
    #[must_use]
    pub fn new(name: &str, form: Form) -> Self {
        Self {
            id: String::new(),
            name: name.to_owned(),
            on_air: true,
            form,
            slot: (form == Form::Inline).then(|| "talk".to_owned()),
            places: Where::default(),
            who: Who::default(),
            when: When::default(),
            opens: Opens::default(),
            opens_on_phones: Opens::default(),
            look: Look::default(),
            manners: Manners::default(),
        }
    }

    /// What people call it.
    #[must_use]
    pub fn title(&self) -> &str {
        if self.name.is_empty() { &self.id } else { &self.name }
    }
}

/// How a placement stands on a page.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Form {
    /// A button in a corner.
    Corner,
    /// A frame in the text, at `<div data-lumbo="NAME">`.
    Inline,
    /// A page of its own, with its own address.
    Page,
    /// A window over the page.
    PopUp,
    /// An address to send or print.
    Link,
}

/// On which pages a placement shows.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields, default)]
#[schemars(rename = "PlacementWhere")]
pub struct Where {
    /// Hosts that may show it, such as `winterlode.example`, `*.winterlode.example` or `127.0.0.1:8091`. Every site
    /// where none is named; on air, a placement on pages needs one.
    pub sites: Vec<String>,
    /// Pages, such as `/prices/*` or `shop.winterlode.example/prices/**`: every page where none is named.
    pub include: Vec<String>,
    /// Pages on which it never shows; exclude wins.
    pub exclude: Vec<String>,
    /// Query parameters that must all be there.
    pub parameters: Vec<Parameter>,
    /// Query parameters of which none may be there.
    pub exclude_parameters: Vec<Parameter>,
    /// Campaigns (`utm_campaign`), of which one must be the visit's.
    pub campaigns: Vec<String>,
    /// Campaigns that keep it away.
    pub exclude_campaigns: Vec<String>,
}

/// A query parameter.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Parameter {
    /// Its name.
    pub name: String,
    /// Its value, with `*` for any characters; any value where none is named.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub is: Option<String>,
}

/// To whom a placement shows.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields, default)]
#[schemars(rename = "PlacementWho")]
pub struct Who {
    /// New visitors, returning ones, or everyone.
    pub visitors: Visitors,
    /// Signed in at the site or not, or either.
    pub signed_in: SignedIn,
    /// Kinds of device; every kind where none is named.
    pub devices: Vec<Device>,
    /// Languages such as `de` or `de-AT`; every one where none is named.
    pub languages: Vec<String>,
    /// Countries, ISO 3166-1 alpha-2; every one where none is named.
    pub countries: Vec<String>,
    /// Not to who filed within so many days.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub not_filed_days: Option<u16>,
    /// Percent of visitors who get it; all of them where nothing is named.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub share: Option<u8>,
}

/// New visitors, returning ones, or everyone.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Visitors {
    /// Both.
    #[default]
    Everyone,
    /// Who was not here before.
    New,
    /// Who was here before, as far as consent lets one know.
    Returning,
}

/// Signed in at the site or not, or either.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum SignedIn {
    /// Both.
    #[default]
    Either,
    /// Signed in.
    Yes,
    /// Not signed in.
    No,
}

/// When a placement may show.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields, default)]
#[schemars(rename = "PlacementWhen")]
pub struct When {
    /// First day.
    #[serde(skip_serializing_if = "Option::is_none")]
    #[schemars(with = "Option<String>")]
    pub from: Option<Date>,
    /// Last day, itself included.
    #[serde(skip_serializing_if = "Option::is_none")]
    #[schemars(with = "Option<String>")]
    pub until: Option<Date>,
    /// The queue whose working time is the placement's; outside it the away words show.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub hours_of: Option<String>,
    /// True where it does not show at all outside that time.
    pub only_in_hours: bool,
}

/// When a placement opens, and as what.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Opens {
    /// The moment.
    pub when: Moment,
    /// What shows then.
    pub shows: Shows,
}

impl Default for Opens {
    fn default() -> Self {
        Self { when: Moment::AtOnce, shows: Shows::Button }
    }
}

/// The moment at which a placement opens.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Moment {
    /// As soon as the page can be used.
    AtOnce,
    /// After so many seconds.
    AfterSeconds(u16),
    /// Once so many percent of the page were scrolled past.
    AtPercent(u8),
    /// When the pointer leaves the page at its top; devices with a pointer only.
    Leaving,
    /// At a click on anything that carries `data-lumbo-open`.
    AtClick,
}

/// What shows when a placement opens.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Shows {
    /// The button alone.
    Button,
    /// The button with the inviting line.
    Line,
    /// The dialogue.
    Open,
}

/// How a placement looks.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields, default)]
pub struct Look {
    /// Who is talking, such as the firm's name.
    pub name: String,
    /// Their picture: the hash of one of the workspace's pictures.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub picture: Option<String>,
    /// The author's colour, such as `#1f5e8c`.
    pub colour: String,
    /// Day, night, or as the visitor's device has it.
    pub daylight: Daylight,
    /// Which corner.
    pub corner: Corner,
    /// Distance from the side's edge, pixels.
    pub from_side: u16,
    /// Distance from the bottom, pixels.
    pub from_bottom: u16,
    /// Width and height of the button, pixels.
    pub size: u16,
    /// Radius of corners, pixels.
    pub rounding: u16,
    /// The inviting line, by language.
    pub line: BTreeMap<String, String>,
    /// The opening words outside the hours, by language; the dialogue's own where there are none.
    pub away: BTreeMap<String, String>,
    /// Title of its page and of previews of links to it.
    pub title: String,
    /// What previews of links to it say.
    pub description: String,
}

impl Default for Look {
    fn default() -> Self {
        Self {
            name: String::new(),
            picture: None,
            colour: "#0e5a4b".into(),
            daylight: Daylight::default(),
            corner: Corner::default(),
            from_side: 24,
            from_bottom: 24,
            size: 56,
            rounding: 14,
            line: BTreeMap::new(),
            away: BTreeMap::new(),
            title: String::new(),
            description: String::new(),
        }
    }
}

/// Day, night, or as the visitor's device has it.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Daylight {
    /// As the visitor's device has it.
    #[default]
    Visitor,
    /// Light.
    Day,
    /// Dark.
    Night,
}

/// Which corner of the page.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Corner {
    /// At the bottom, right.
    #[default]
    Right,
    /// At the bottom, left.
    Left,
}

/// How a placement behaves.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields, default)]
pub struct Manners {
    /// What may be kept in the visitor's browser.
    pub keeps: Keeping,
    /// Query parameters beside the campaign's that a lead carries along, such as an advertisement's click id.
    pub carries: Vec<String>,
}

/// What may be kept in the visitor's browser.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Keeping {
    /// Nothing before the site says `lumbo.consent(true)`.
    #[default]
    AfterConsent,
    /// What is needed to go on with a conversation, at once.
    AtOnce,
}
