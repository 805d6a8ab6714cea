//! What pages of customers get: the script, what shows on a visit, the frame, and a placement's own page. No cookie,
//! and nothing for sites that no placement names.

use std::collections::BTreeMap;

use aide::axum::ApiRouter;
use aide::axum::routing::{get_with, post_with};
use axum::body::Bytes;
use axum::extract::State;
use axum::http::{HeaderMap, HeaderValue, StatusCode, header};
use axum::response::{IntoResponse, Response};
use axum::{Json, Router};
use jiff::tz::TimeZone;
use lumbo_condition::circumstances::country_hint;
use lumbo_placement::colour::Colour;
use lumbo_placement::language::{lookup, priorities};
use lumbo_placement::{
    Address, Chosen, Corner, Device, Form, Keeping, Moment, Placement, Slot, Visit, choose, fits_host,
    is_plain_allowed, shows_at, site_source,
};
use lumbo_store::{Placed, StoreError};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use uuid::Uuid;

use super::media::shown;
use super::prospects::{OpeningView, nothing_here, opening_of};
use crate::answer::{Sent, Shown};
use crate::api::named;
use crate::body::Path;
use crate::placed::Sight;
use crate::wire::placements::{Colours, PlacedLook};
use crate::{App, Problem, pages, strict};

/// The name of this area in the document.
const TAG: &str = "Prospects";
/// Most bytes of what a page says of a visit.
const VISIT: usize = 8 * 1024;
/// Most inline places of one page.
const SLOTS: usize = 20;
/// Where the script has the names of the query parameters that it may send.
const NAMED: &str = "%named%";

/// Routes of the frame and of a placement's own page; in the document.
pub(crate) fn api() -> ApiRouter<App> {
    ApiRouter::new()
        .api_route("/api/at/{name}", get_with(placed, named(TAG, "placed", "What a page of a placement shows first")))
        .api_route(
            "/api/at/{name}/opened",
            post_with(opened, named(TAG, "placementOpened", "Count that a placement was opened")),
        )
        .api_route("/api/at/{name}/picture", get_with(picture, named(TAG, "placementPicture", "Who is talking")))
}

/// Routes that other origins ask.
pub(crate) fn across() -> Router<App> {
    use axum::routing::{get, post};
    Router::new()
        .route("/e/{key}", get(script))
        .route("/e/{key}/visit", post(visit))
        .route("/f/{name}", get(frame))
        .route("/at/{name}", get(page))
}

/// A key, or a key with `.js` behind it.
#[derive(Deserialize)]
pub(crate) struct KeyPath {
    key: String,
}

/// A placement's id, or its address.
#[derive(Deserialize, JsonSchema)]
pub(crate) struct NamePath {
    /// It.
    name: String,
}

/// Query parameters that rules or records read; others never leave the page.
fn parameters(placements: &[Placement]) -> Vec<&str> {
    let mut names: Vec<&str> = vec!["utm_campaign"];
    for placement in placements {
        let places = &placement.places;
        let of_rules = places.parameters.iter().chain(&places.exclude_parameters).map(|one| one.name.as_str());
        names.extend(of_rules);
    }
    names.sort_unstable();
    names.dedup();
    names
}

async fn script(State(app): State<App>, Path(path): Path<KeyPath>) -> Response {
    let Some(key) = path.key.strip_suffix(".js") else { return StatusCode::NOT_FOUND.into_response() };
    let now = match app.placed.now(&app.store, key).await {
        Ok(now) => now,
        // A line that names nothing breaks nothing.
        Err(StoreError::NotFound(_)) => return (StatusCode::NOT_FOUND, "// no such key\n").into_response(),
        Err(error) => return Problem::from(error).into_response(),
    };
    let Some(written) = pages::script() else { return StatusCode::SERVICE_UNAVAILABLE.into_response() };
    // Within a string of the script: JSON, with its own quotes escaped once more.
    let names = serde_json::to_string(&parameters(&now.placements)).unwrap_or_default();
    let names = serde_json::to_string(&names).unwrap_or_default();
    let names = names
        .trim_matches('"')
        .replace('<', "\\u003c")
        .replace('\'', "\\u0027")
        .replace('`', "\\u0060")
        .replace('$', "\\u0024");
    let headers = [
        (header::CONTENT_TYPE, "text/javascript; charset=utf-8"),
        (header::CACHE_CONTROL, "public, max-age=300"),
        (header::ACCESS_CONTROL_ALLOW_ORIGIN, "*"),
        (header::HeaderName::from_static("cross-origin-resource-policy"), "cross-origin"),
    ];
    (headers, written.replace(NAMED, &names)).into_response()
}

/// What a page says of a visit.
#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct Said {
    /// Path of the page.
    path: String,
    /// Query parameters that the script may send.
    #[serde(default)]
    query: BTreeMap<String, String>,
    /// Names of inline places on the page.
    #[serde(default)]
    slots: Vec<String>,
    #[serde(default)]
    device: Option<Device>,
    #[serde(default)]
    language: Option<String>,
    #[serde(default)]
    zone: Option<String>,
    #[serde(default)]
    returning: bool,
    #[serde(default)]
    signed_in: bool,
    #[serde(default)]
    filed_days: Option<u32>,
    #[serde(default)]
    visitor: Option<String>,
}

/// A placement that shows.
#[derive(Serialize)]
struct Showing {
    slot: String,
    id: String,
    form: Form,
    when: &'static str,
    value: u16,
    shows: lumbo_placement::Shows,
    name: String,
    line: String,
    language: String,
    colour: String,
    on_colour: String,
    corner: Corner,
    from_side: u16,
    from_bottom: u16,
    size: u16,
    rounding: u16,
    keeps: Keeping,
    carries: Vec<String>,
}

/// A text in the visitor's language, as far as there is one.
fn text<'a>(texts: &'a BTreeMap<String, String>, wanted: &[String]) -> Option<(&'a str, &'a str)> {
    let there: Vec<&str> = texts.keys().map(String::as_str).collect();
    let tag = lookup(wanted, &there).or_else(|| there.first().copied())?;
    texts.get_key_value(tag).map(|(tag, text)| (tag.as_str(), text.as_str())).filter(|(_, text)| !text.is_empty())
}

fn shows(slot: &Slot, chosen: &Chosen<'_>, wanted: &[String]) -> Option<Showing> {
    let placement = chosen.placement?;
    let look = &placement.look;
    let colours = lumbo_placement::colour::Palette::of(Colour::parse(&look.colour)?);
    let (when, value) = match chosen.opens.when {
        Moment::AtOnce => ("at_once", 0),
        Moment::AfterSeconds(seconds) => ("after_seconds", seconds),
        Moment::AtPercent(percent) => ("at_percent", u16::from(percent)),
        Moment::Leaving => ("leaving", 0),
        Moment::AtClick => ("at_click", 0),
    };
    let (language, line) = text(&look.line, wanted).unwrap_or(("", ""));
    Some(Showing {
        slot: slot.to_string(),
        id: placement.id.clone(),
        form: placement.form,
        when,
        value,
        shows: chosen.opens.shows,
        name: look.name.clone(),
        line: line.to_owned(),
        language: language.to_owned(),
        colour: colours.button.to_string(),
        on_colour: colours.on_button.to_string(),
        corner: look.corner,
        from_side: look.from_side,
        from_bottom: look.from_bottom,
        size: look.size,
        rounding: look.rounding,
        keeps: placement.manners.keeps,
        carries: placement.manners.carries.clone(),
    })
}

/// An origin that a page sends, with the host and port it stands for.
fn origin(headers: &HeaderMap) -> Option<(HeaderValue, Address)> {
    let value = headers.get(header::ORIGIN)?;
    let text = value.to_str().ok()?;
    let bare = text.split_once("://").is_some_and(|(scheme, rest)| {
        matches!(scheme, "https" | "http") && !rest.is_empty() && !rest.contains(['/', '?', '#', '@'])
    });
    if !bare {
        return None;
    }
    Some((value.clone(), Address::parse(text).ok()?))
}

async fn visit(State(app): State<App>, Path(path): Path<KeyPath>, headers: HeaderMap, body: Bytes) -> Response {
    // Whoever is not asked for gets an empty answer that their page cannot read.
    let nothing = StatusCode::NO_CONTENT.into_response();
    let (Some((origin, site)), true) = (origin(&headers), body.len() <= VISIT) else { return nothing };
    let Ok(said) = strict::from_slice::<Said>(&body) else { return nothing };
    let now = match app.placed.now(&app.store, &path.key).await {
        Ok(now) => now,
        Err(StoreError::NotFound(_)) => return nothing,
        Err(error) => return Problem::from(error).into_response(),
    };
    let country = app.country_header.as_ref().and_then(|name| headers.get(name)).and_then(|value| value.to_str().ok());
    let names = parameters(&now.placements);
    let query = said.query.into_iter().filter(|(name, _)| names.contains(&name.as_str())).collect::<Vec<_>>();
    let Some(address) = site.with(&said.path, query) else { return nothing };
    let at = app.store.now();
    app.placed.note(now.workspace, format!("{}{}", address.authority(), address.path()).chars().take(300).collect());
    let plain = origin.as_bytes().starts_with(b"http:");
    let allowed = |placement: &Placement| {
        let mut sites = placement.places.sites.iter();
        sites.any(|known| fits_host(known, &address) && (!plain || is_plain_allowed(known)))
    };
    if !now.placements.iter().any(allowed) {
        return nothing;
    }
    let wanted = priorities(said.language.as_deref().unwrap_or_default());
    let visit = Visit {
        device: said.device,
        country: country.map(str::to_owned).or_else(|| country_hint(said.language.as_deref(), said.zone.as_deref())),
        language: said.language,
        returning: said.returning,
        signed_in: said.signed_in,
        filed_days_ago: said.filed_days,
        visitor: said.visitor.filter(|visitor| visitor.len() <= 64),
        at,
        address: address.clone(),
    };
    // Of a site that only some may show on, only those are asked.
    let placements: Vec<Placement> = now.placements.iter().filter(|one| allowed(one)).cloned().collect();
    let chosen = choose(&placements, &visit, &now.known);
    let wanted_slot = |slot: &Slot| match slot {
        Slot::Floating => true,
        Slot::Inline(name) => said.slots.iter().take(SLOTS).any(|known| known == name),
    };
    let found: Vec<Showing> = chosen
        .iter()
        .filter(|(slot, _)| wanted_slot(slot))
        .filter_map(|(slot, chosen)| shows(slot, chosen, &wanted))
        .collect();
    let day = at.to_zoned(TimeZone::UTC).date();
    // A window over the page has shown once it opens, which the frame says.
    for one in found.iter().filter(|one| one.form != Form::PopUp) {
        if let Ok(id) = Uuid::parse_str(&one.id) {
            app.placed.count(now.workspace, id, day, Sight::Shown);
        }
    }
    let headers = [
        (header::ACCESS_CONTROL_ALLOW_ORIGIN, origin),
        (header::VARY, HeaderValue::from_static("origin")),
        (header::CACHE_CONTROL, HeaderValue::from_static("no-store")),
    ];
    (headers, Json(found)).into_response()
}

/// A placement that is on air and has its day; nothing where it is not.
async fn found(app: &App, name: &str) -> Result<Option<Placed>, StoreError> {
    match app.store.placed(name).await {
        Ok(placed) => Ok(shows_at(&placed.placement, app.store.now(), &placed.known).is_ok().then_some(placed)),
        Err(StoreError::NotFound(_)) => Ok(None),
        Err(error) => Err(error),
    }
}

/// What a page of a placement shows first.
#[derive(Serialize, JsonSchema)]
pub(crate) struct PlacedView {
    /// The placement.
    id: Uuid,
    /// The dialogue's address.
    slug: String,
    /// Its greeting, button and words.
    opening: OpeningView,
    /// How it looks.
    look: PlacedLook,
}

pub(crate) async fn placed(State(app): State<App>, Path(path): Path<NamePath>) -> Result<Json<PlacedView>, Problem> {
    let placed = found(&app, &path.name).await?.ok_or_else(nothing_here)?;
    Ok(Json(view_of(&app, placed).await?))
}

/// What a page of a placement shows first.
async fn view_of(app: &App, placed: Placed) -> Result<PlacedView, Problem> {
    let (dialogue, privacy) = app.store.on_air(&placed.slug).await?;
    let mut opening = opening_of(&dialogue, privacy);
    let look = &placed.placement.look;
    if shows_at(&placed.placement, app.store.now(), &placed.known) == Ok(true)
        && let Some((_, away)) = text(&look.away, &priorities(&dialogue.language))
    {
        away.clone_into(&mut opening.say);
    }
    Ok(PlacedView {
        id: placed.id,
        slug: placed.slug,
        opening,
        look: PlacedLook {
            name: look.name.clone(),
            picture: look.picture.is_some().then(|| format!("/api/at/{}/picture", placed.id)),
            colours: Colours::of(Colour::parse(&look.colour).unwrap_or(lumbo_placement::colour::DAY)),
            daylight: look.daylight,
            keeps: placed.placement.manners.keeps,
        },
    })
}

/// The same as JSON, to be put into the page; without it the page asks.
async fn first_of(app: &App, placed: Placed) -> Option<String> {
    serde_json::to_string(&view_of(app, placed).await.ok()?).ok()
}

pub(crate) async fn opened(State(app): State<App>, Path(path): Path<NamePath>) -> Result<StatusCode, Problem> {
    let placed = found(&app, &path.name).await?.ok_or_else(nothing_here)?;
    let day = app.store.now().to_zoned(TimeZone::UTC).date();
    // What has no page around it, and what covers one, has shown when it opens.
    if matches!(placed.placement.form, Form::PopUp | Form::Page | Form::Link) {
        app.placed.count(placed.workspace, placed.id, day, Sight::Shown);
    }
    app.placed.count(placed.workspace, placed.id, day, Sight::Opened);
    Ok(StatusCode::NO_CONTENT)
}

pub(crate) async fn picture(State(app): State<App>, Path(path): Path<NamePath>) -> Result<Sent<Shown>, Problem> {
    let placed = found(&app, &path.name).await?.ok_or_else(nothing_here)?;
    let hash = placed.placement.look.picture.ok_or_else(Problem::no_address)?;
    Ok(shown(app.store.medium(placed.workspace, &hash).await?))
}

/// Origins that may show a placement in a frame.
fn sources(placement: &Placement) -> Vec<String> {
    placement.places.sites.iter().filter_map(|site| site_source(site)).flatten().collect()
}

async fn frame(State(app): State<App>, Path(path): Path<NamePath>) -> Response {
    let (framed_by, first) = match found(&app, &path.name).await {
        Ok(Some(placed)) => (sources(&placed.placement), first_of(&app, placed).await),
        // Off air, it says so to nobody but itself.
        Ok(None) => (Vec::new(), None),
        Err(error) => return Problem::from(error).into_response(),
    };
    let ancestors = if framed_by.is_empty() { "'none'".to_owned() } else { framed_by.join(" ") };
    pages::prospects(None, &ancestors, first.as_deref())
}

async fn page(State(app): State<App>, Path(path): Path<NamePath>) -> Response {
    let (head, first) = match found(&app, &path.name).await {
        Ok(Some(placed)) => {
            let look = &placed.placement.look;
            let title = [&look.title, &look.name, &placed.placement.name].into_iter().find(|text| !text.is_empty());
            let picture = look.picture.as_ref().map(|_| format!("{}/api/at/{}/picture", app.tools.site, placed.id));
            let head = pages::Head {
                title: title.cloned().unwrap_or_default(),
                description: look.description.clone(),
                address: format!("{}/at/{}", app.tools.site, path.name),
                picture,
            };
            (Some(head), first_of(&app, placed).await)
        }
        Ok(None) => (None, None),
        Err(error) => return Problem::from(error).into_response(),
    };
    pages::prospects(head.as_ref(), "'none'", first.as_deref())
}
