//! Placements as they cross.

use lumbo_placement::colour::{Colour, Palette};
use lumbo_placement::{Daylight, Keeping, Placement, check};
use lumbo_store::PlacementRow;
use schemars::JsonSchema;
use serde::Serialize;
use uuid::Uuid;

/// A placement, as the list of them shows it.
#[derive(Serialize, JsonSchema)]
pub(crate) struct PlacementView {
    /// Its id.
    id: Uuid,
    /// What is written.
    draft: Placement,
    /// The draft's revision.
    revision: i64,
    /// The dialogue it shows.
    dialogue: Uuid,
    /// The dialogue's title.
    title: String,
    /// True where that dialogue has a release on air.
    dialogue_on_air: bool,
    /// Its own page.
    link: String,
    /// Number of the release that pages get; 0 before the first.
    release: i32,
    /// True where the draft says something else than that release.
    changed: bool,
    /// False where somebody took it off air.
    on_air: bool,
    /// What keeps the draft from being released.
    faults: Vec<PlacementFault>,
    /// Colours that the author's gives; nothing while it is not one.
    colours: Option<Colours>,
    /// Page visits of seven days on which it appeared.
    shown: i64,
    /// How often it was opened.
    opened: i64,
    /// Conversations that were started in it.
    started: i64,
    /// Of those, how many filed a lead.
    filed: i64,
}

/// What keeps a placement from being released.
#[derive(Serialize, JsonSchema)]
pub(crate) struct PlacementFault {
    /// The setting.
    at: String,
    /// What is wrong and what to do.
    says: String,
}

/// Colours of a placement, each with enough contrast where it is used.
#[derive(Serialize, JsonSchema)]
pub(crate) struct Colours {
    /// The button's ground.
    button: String,
    /// What stands on it.
    on_button: String,
    /// Contrast of the two, to 1.
    ratio: f64,
    /// True where the button is not the author's colour itself.
    moved: bool,
    /// Text and edges by day.
    day: String,
    /// What stands on those where they are a ground.
    on_day: String,
    /// Text and edges by night.
    night: String,
    /// What stands on those where they are a ground.
    on_night: String,
}

impl Colours {
    /// Colours that an author's gives.
    pub(crate) fn of(colour: Colour) -> Self {
        let Palette { button, on_button, ratio, day, on_day, night, on_night } = Palette::of(colour);
        Self {
            button: button.to_string(),
            on_button: on_button.to_string(),
            ratio: (ratio * 100.0).round() / 100.0,
            moved: button != colour,
            day: day.to_string(),
            on_day: on_day.to_string(),
            night: night.to_string(),
            on_night: on_night.to_string(),
        }
    }
}

impl PlacementView {
    /// A row, with links to `site`.
    pub(crate) fn of(row: PlacementRow, site: &str) -> Self {
        let faults = check(&row.draft).into_iter();
        Self {
            id: row.id,
            revision: row.revision,
            dialogue: row.dialogue,
            title: row.title,
            dialogue_on_air: row.dialogue_on_air,
            link: format!("{site}/at/{}", row.address),
            release: row.number,
            changed: row.released.as_ref() != Some(&row.draft),
            on_air: row.on_air,
            faults: faults.map(|fault| PlacementFault { at: fault.at.to_owned(), says: fault.says }).collect(),
            colours: Colour::parse(&row.draft.look.colour).map(Colours::of),
            shown: row.counts.shown,
            opened: row.counts.opened,
            started: row.counts.started,
            filed: row.counts.filed,
            draft: row.draft,
        }
    }
}

/// How the prospect's page looks in a placement.
#[derive(Serialize, JsonSchema)]
pub(crate) struct PlacedLook {
    /// Who is talking.
    pub(crate) name: String,
    /// Address of their picture.
    pub(crate) picture: Option<String>,
    /// Colours.
    pub(crate) colours: Colours,
    /// Day, night, or as the visitor's device has it.
    pub(crate) daylight: Daylight,
    /// What may be kept in the visitor's browser.
    pub(crate) keeps: Keeping,
}
