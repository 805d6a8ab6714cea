//! Placements, for authors: writing, trying an address, releasing, putting on and off air.

use std::collections::BTreeMap;

use aide::axum::ApiRouter;
use aide::axum::routing::{get_with, post_with};
use axum::Json;
use axum::extract::State;
use axum::http::{StatusCode, header};
use jiff::Timestamp;
use lumbo_condition::circumstances::country_hint;
use lumbo_placement::{Address, Device, Form, Look, Placement, Visit, check, choose};
use lumbo_store::PlacementAct;
use qrcode::QrCode;
use qrcode::render::svg;
use rand::Rng;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use uuid::Uuid;

use super::DialoguePath;
use crate::answer::{Drawn, Sent};
use crate::api::named;
use crate::body::{Body, Path};
use crate::problem::sentence;
use crate::signed::Writer;
use crate::typed::name;
use crate::wire::placements::PlacementView;
use crate::{App, Problem};

/// The name of this area in the document.
const TAG: &str = "Placements";
/// Longest note of a release, characters.
const NOTE: usize = 300;
/// Signs of a placement's own address, without those that look alike.
const SIGNS: &[u8] = b"abcdefghjkmnpqrstuvwxyz23456789";

/// Placements.
pub(crate) fn api() -> ApiRouter<App> {
    ApiRouter::new()
        .api_route("/api/placements", get_with(list, named(TAG, "placements", "Placements in their order")))
        .api_route(
            "/api/placements/try",
            post_with(attempt, named(TAG, "tryAddress", "What shows on a visit, and why")),
        )
        .api_route(
            "/api/dialogues/{dialogue}/placements",
            post_with(add, named(TAG, "addPlacement", "Make a placement of a dialogue")),
        )
        .api_route(
            "/api/placements/{placement}",
            post_with(change, named(TAG, "changePlacement", "Change what is written of a placement")),
        )
        .api_route(
            "/api/placements/{placement}/releases",
            get_with(releases, named(TAG, "placementReleases", "Releases of a placement"))
                .post_with(release, named(TAG, "releasePlacement", "Let pages get what is written")),
        )
        .api_route(
            "/api/placements/{placement}/act",
            post_with(act, named(TAG, "actOnPlacement", "On and off air, up and down, out")),
        )
        .api_route("/api/placements/{placement}/qr", get_with(qr, named(TAG, "placementQr", "Its link as a QR code")))
}

/// A placement that an address names.
#[derive(Deserialize, JsonSchema)]
pub(crate) struct PlacementPath {
    /// Its id.
    placement: Uuid,
}

/// A workspace's placements, and its line of script.
#[derive(Serialize, JsonSchema)]
pub(crate) struct PlacementList {
    /// In the workspace's order.
    placements: Vec<PlacementView>,
    /// The line for one's pages.
    line: String,
    /// Pages on which it was seen, newest first.
    pages: Vec<PageSeen>,
}

/// A page on which the line was seen.
#[derive(Serialize, JsonSchema)]
pub(crate) struct PageSeen {
    /// Host and path.
    page: String,
    /// When last.
    #[schemars(with = "String")]
    at: Timestamp,
}

pub(crate) async fn list(State(app): State<App>, Writer(person): Writer) -> Result<Json<PlacementList>, Problem> {
    let (store, site) = (&app.store, &app.tools.site);
    app.placed.write_down(store).await?;
    let rows = store.placements(person.workspace_id).await?;
    let (key, pages) = store.page_line(person.workspace_id).await?;
    Ok(Json(PlacementList {
        placements: rows.into_iter().map(|row| PlacementView::of(row, site)).collect(),
        line: format!("<script async src=\"{site}/e/{key}.js\"></script>"),
        pages: pages.into_iter().map(|seen| PageSeen { page: seen.page, at: seen.seen_at }).collect(),
    }))
}

async fn one(app: &App, workspace: Uuid, id: Uuid) -> Result<Json<PlacementView>, Problem> {
    Ok(Json(PlacementView::of(app.store.placement(workspace, id).await?, &app.tools.site)))
}

/// A placement to make.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct NewPlacement {
    /// Its name.
    name: String,
    /// How it stands on a page.
    form: Form,
}

/// Its own address: its name as an address takes it, and a few signs that nobody guesses.
fn address(name: &str) -> String {
    let mut words: String = name
        .to_lowercase()
        .chars()
        .map(|char| if char.is_ascii_alphanumeric() { char } else { '-' })
        .take(30)
        .collect();
    while words.contains("--") {
        words = words.replace("--", "-");
    }
    let mut random = rand::rng();
    let tail: String = (0..6).map(|_| char::from(SIGNS[random.random_range(0..SIGNS.len())])).collect();
    format!("{}-{tail}", words.trim_matches('-')).trim_matches('-').to_owned()
}

pub(crate) async fn add(
    State(app): State<App>,
    Writer(person): Writer,
    Path(path): Path<DialoguePath>,
    Body(new): Body<NewPlacement>,
) -> Result<Json<PlacementView>, Problem> {
    let name = name(&new.name, "the placement’s")?;
    let mut draft = Placement::new(name, new.form);
    // A new one takes the sites of those there are: they are the firm's own.
    let others = app.store.placements(person.workspace_id).await?;
    if let Some(other) = others.iter().rev().find(|other| !other.draft.places.sites.is_empty()) {
        draft.places.sites.clone_from(&other.draft.places.sites);
        draft.look = Look { line: BTreeMap::new(), ..other.draft.look.clone() };
    }
    let id = app.store.add_placement(person.workspace_id, path.dialogue, &address(name), &draft).await?;
    one(&app, person.workspace_id, id).await
}

/// A changed draft.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct PlacementChange {
    /// The revision that was looked at.
    revision: i64,
    /// What is written; its id and whether it is on air are left as they are.
    draft: Placement,
}

/// Most bytes of a draft.
const DRAFT: usize = 64 * 1024;

pub(crate) async fn change(
    State(app): State<App>,
    Writer(person): Writer,
    Path(path): Path<PlacementPath>,
    Body(change): Body<PlacementChange>,
) -> Result<Json<PlacementView>, Problem> {
    let draft = Placement { id: String::new(), on_air: true, ..change.draft };
    if serde_json::to_vec(&draft).map_or(true, |text| text.len() > DRAFT) {
        return Err(Problem::bad("A placement has at most 64 kB of settings. Shorten its lists or texts."));
    }
    app.store.change_placement(person.workspace_id, path.placement, change.revision, &draft).await?;
    one(&app, person.workspace_id, path.placement).await
}

/// A release to make.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct PlacementToRelease {
    /// The revision that was looked at.
    revision: i64,
    /// What is new about it.
    #[serde(default)]
    note: String,
}

pub(crate) async fn release(
    State(app): State<App>,
    Writer(person): Writer,
    Path(path): Path<PlacementPath>,
    Body(body): Body<PlacementToRelease>,
) -> Result<Json<PlacementView>, Problem> {
    let note = body.note.trim();
    if note.chars().count() > NOTE {
        return Err(Problem::bad(format!("A note has at most {NOTE} characters.")));
    }
    let row = app.store.placement(person.workspace_id, path.placement).await?;
    if let Some(fault) = check(&row.draft).into_iter().next() {
        return Err(Problem::bad(fault.says));
    }
    app.store.release_placement(&person, path.placement, body.revision, note).await?;
    one(&app, person.workspace_id, path.placement).await
}

/// A release of a placement.
#[derive(Serialize, JsonSchema)]
pub(crate) struct PlacementReleaseRow {
    /// From 1.
    number: i32,
    /// The author's note.
    note: String,
    /// Who.
    made_by: Option<String>,
    /// When.
    #[schemars(with = "String")]
    made_at: Timestamp,
}

pub(crate) async fn releases(
    State(app): State<App>,
    Writer(person): Writer,
    Path(path): Path<PlacementPath>,
) -> Result<Json<Vec<PlacementReleaseRow>>, Problem> {
    let rows = app.store.placement_releases(person.workspace_id, path.placement).await?;
    let row = |row: lumbo_store::PlacementRelease| PlacementReleaseRow {
        number: row.number,
        note: row.note,
        made_by: row.made_by,
        made_at: row.made_at,
    };
    Ok(Json(rows.into_iter().map(row).collect()))
}

/// What is done with a placement.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct PlacementDeedSet {
    /// It.
    act: PlacementAct,
}

pub(crate) async fn act(
    State(app): State<App>,
    Writer(person): Writer,
    Path(path): Path<PlacementPath>,
    Body(body): Body<PlacementDeedSet>,
) -> Result<StatusCode, Problem> {
    app.store.act_on_placement(&person, path.placement, body.act).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// A visit to try.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct Try {
    /// The page's address.
    url: String,
    /// The kind of device.
    #[serde(default)]
    device: Option<Device>,
    /// Language of the browser.
    #[serde(default)]
    language: Option<String>,
    /// ISO 3166-1 alpha-2.
    #[serde(default)]
    country: Option<String>,
    /// Here before.
    #[serde(default)]
    returning: bool,
    /// Signed in at the site.
    #[serde(default)]
    signed_in: bool,
    /// Filed so many days ago.
    #[serde(default)]
    filed_days_ago: Option<u32>,
    /// When; now where absent.
    #[serde(default)]
    #[schemars(with = "Option<String>")]
    at: Option<Timestamp>,
}

/// What shows in a slot.
#[derive(Serialize, JsonSchema)]
pub(crate) struct TriedSlot {
    /// `floating` or `inline:NAME`.
    slot: String,
    /// The placement; nothing where none fits.
    placement: Option<Uuid>,
    /// When it opens, and as what.
    opens: lumbo_placement::Opens,
    /// True where it shows with the away words.
    away: bool,
    /// Every placement of the slot, in the workspace's order.
    reasons: Vec<TriedPlacement>,
}

/// A placement held against the visit.
#[derive(Serialize, JsonSchema)]
pub(crate) struct TriedPlacement {
    /// Its id.
    placement: Uuid,
    /// Its name.
    name: String,
    /// True where every rule lets it in.
    fits: bool,
    /// What let it in, or what keeps it out.
    why: String,
}

/// What shows on a visit.
#[derive(Serialize, JsonSchema)]
pub(crate) struct TriedVisit {
    /// Slots on pages; what has an address of its own takes none.
    slots: Vec<TriedSlot>,
}

pub(crate) async fn attempt(
    State(app): State<App>,
    Writer(person): Writer,
    Body(body): Body<Try>,
) -> Result<Json<TriedVisit>, Problem> {
    let address = Address::parse(&body.url).map_err(|error| Problem::bad(sentence(&error.to_string())))?;
    let visit = Visit {
        address,
        device: body.device,
        country: body.country.or_else(|| country_hint(body.language.as_deref(), None)),
        language: body.language,
        returning: body.returning,
        signed_in: body.signed_in,
        filed_days_ago: body.filed_days_ago,
        visitor: None,
        at: body.at.unwrap_or_else(|| app.store.now()),
    };
    let drafts: Vec<Placement> =
        app.store.placements(person.workspace_id).await?.into_iter().map(|row| row.draft).collect();
    let known = app.store.placement_known(person.workspace_id).await?;
    let tried = |judged: &lumbo_placement::Judged<'_>| TriedPlacement {
        placement: Uuid::parse_str(&judged.placement.id).unwrap_or_default(),
        name: judged.placement.title().to_owned(),
        fits: judged.fits,
        why: judged.says(),
    };
    let slots = choose(&drafts, &visit, &known)
        .into_iter()
        .map(|(slot, chosen)| TriedSlot {
            slot: slot.to_string(),
            placement: chosen.placement.and_then(|placement| Uuid::parse_str(&placement.id).ok()),
            opens: chosen.opens,
            away: chosen.away,
            reasons: chosen.reasons.iter().map(tried).collect(),
        })
        .collect();
    Ok(Json(TriedVisit { slots }))
}

pub(crate) async fn qr(
    State(app): State<App>,
    Writer(person): Writer,
    Path(path): Path<PlacementPath>,
) -> Result<Sent<Drawn>, Problem> {
    let row = app.store.placement(person.workspace_id, path.placement).await?;
    let link = format!("{}/at/{}", app.tools.site, row.address);
    let code = QrCode::new(link.as_bytes()).map_err(|_| Problem::internal())?;
    let drawn = code.render::<svg::Color<'_>>().min_dimensions(240, 240).build();
    let headers = [(header::CONTENT_TYPE, "image/svg+xml"), (header::CACHE_CONTROL, "no-store")];
    Ok(Sent::new((headers, drawn)))
}
