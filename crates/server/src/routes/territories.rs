//! Tables of territories as people set them, and the holidays of a calendar file.

use aide::axum::ApiRouter;
use aide::axum::routing::{delete_with, post_with};
use axum::Json;
use axum::extract::State;
use lumbo_calendar::ical::{self, Holidays};
use lumbo_route::territory::{MOST_LETTERS, MOST_ROWS};
use lumbo_route::{Territories, Territory};
use schemars::JsonSchema;
use serde::Deserialize;

use super::routing::{RoutingView, key_of, view};
use super::scoring::sentence;
use crate::api::named;
use crate::body::{Body, Path, Query};
use crate::signed::Writer;
use crate::{App, Problem};

/// The name of this area in the document.
const TAG: &str = "Routing";

/// Territories and holidays.
pub(crate) fn api() -> ApiRouter<App> {
    ApiRouter::new()
        .api_route(
            "/api/routing/holidays",
            post_with(read_holidays, named(TAG, "readHolidays", "Read the holidays of an iCalendar file")),
        )
        .api_route(
            "/api/routing/territories",
            post_with(put_table, named(TAG, "putTerritories", "Make a table of territories, or change one")),
        )
        .api_route(
            "/api/routing/territories/{table}",
            delete_with(drop_table, named(TAG, "dropTerritories", "Take out a table of territories")),
        )
}

/// An iCalendar file.
#[derive(Debug, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct IcalBody {
    /// What stands in it; 500 kB at most.
    text: String,
}

/// Years of holidays that are read, from the one before this.
const HOLIDAY_YEARS: i16 = 5;

pub(crate) async fn read_holidays(
    State(app): State<App>,
    Writer(_): Writer,
    Body(body): Body<IcalBody>,
) -> Result<Json<Holidays>, Problem> {
    let year = app.store.now().to_zoned(jiff::tz::TimeZone::UTC).year();
    let (from, until) = (jiff::civil::date(year - 1, 1, 1), jiff::civil::date(year - 1 + HOLIDAY_YEARS, 1, 1));
    let found = app.busy.work(move || ical::holidays(&body.text, from, until)).await?;
    Ok(Json(found.map_err(|error| Problem::bad(sentence(&error.to_string())))?))
}

/// A table of territories as it is to be.
#[derive(Debug, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct TerritoriesBody {
    /// Its key; made of its name where absent, for a new one.
    #[serde(default)]
    key: Option<String>,
    /// The revision that was looked at; absent for a new one.
    #[serde(default)]
    revision: Option<i64>,
    /// Its name, 1 to 60 characters.
    name: String,
    /// Its rows, 5,000 at most, each with a beginning of 1 to 60 characters.
    rows: Vec<Territory>,
    /// Key of the queue for places without a row; the rules go on where absent.
    #[serde(default)]
    otherwise: Option<String>,
}

fn checked_table(body: TerritoriesBody) -> Result<(Territories, i64), Problem> {
    let name = body.name.trim().to_owned();
    if name.is_empty() || name.chars().count() > 60 {
        return Err(Problem::bad("A table’s name has 1 to 60 characters."));
    }
    if body.rows.len() > MOST_ROWS {
        return Err(Problem::bad(format!("A table has at most {MOST_ROWS} rows. Make two of it.")));
    }
    let mut rows = Vec::with_capacity(body.rows.len());
    for (place, Territory { starts, queue }) in body.rows.into_iter().enumerate() {
        let starts = starts.trim().to_owned();
        if !starts.contains(char::is_alphanumeric) || starts.chars().count() > MOST_LETTERS {
            return Err(Problem::bad(format!(
                "Row {}: write how the postcode or number begins, or the name of a place, in 1 to {MOST_LETTERS} \
                 characters.",
                place + 1
            )));
        }
        rows.push(Territory { starts, queue });
    }
    let key = match (body.key, body.revision) {
        (Some(key), _) if lumbo_value::is_key(&key) => key,
        (None, None) => key_of(&name),
        (Some(_), _) => return Err(Problem::bad("A table’s key has small letters, digits and underscores.")),
        (None, Some(_)) => return Err(Problem::bad("A change names the table’s key.")),
    };
    let otherwise = body.otherwise.filter(|queue| !queue.is_empty());
    Ok((Territories { key, name, rows, otherwise }, body.revision.unwrap_or(0)))
}

pub(crate) async fn put_table(
    State(app): State<App>,
    Writer(person): Writer,
    Body(body): Body<TerritoriesBody>,
) -> Result<Json<RoutingView>, Problem> {
    let (table, revision) = checked_table(body)?;
    app.store.put_territories(person.workspace_id, person.id, &table, revision).await?;
    view(&app, person.workspace_id).await
}

/// The table that an address names.
#[derive(Deserialize, JsonSchema)]
pub(crate) struct TablePath {
    /// Its key.
    table: String,
}

/// The revision that was looked at.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct LookedAt {
    /// The table's revision.
    revision: i64,
}

pub(crate) async fn drop_table(
    State(app): State<App>,
    Writer(person): Writer,
    Path(path): Path<TablePath>,
    Query(at): Query<LookedAt>,
) -> Result<Json<RoutingView>, Problem> {
    app.store.drop_territories(person.workspace_id, person.id, &path.table, at.revision).await?;
    view(&app, person.workspace_id).await
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_table_is_checked_before_it_is_kept() {
        let checked = |json: serde_json::Value| checked_table(serde_json::from_value(json).unwrap());
        let row = |starts: &str| serde_json::json!({"starts": starts, "queue": "saltwick"});
        let made = checked(serde_json::json!({"name": "Depots, by postcode", "rows": [row(" SW1 ")], "otherwise": ""}));
        let (table, revision) = made.ok().unwrap();
        assert_eq!((table.key.as_str(), table.rows[0].starts.as_str(), revision), ("depots_by_postcode", "SW1", 0));
        assert_eq!(table.otherwise, None);
        for (wrong, says) in [
            (serde_json::json!({"name": " ", "rows": []}), "1 to 60 characters"),
            (serde_json::json!({"name": "x", "rows": [row("SW"), row(" - ")]}), "Row 2"),
            (serde_json::json!({"name": "x", "rows": [row(&"S".repeat(61))]}), "Row 1"),
            (serde_json::json!({"name": "x", "rows": vec![row("S"); 5_001]}), "at most 5000 rows"),
            (serde_json::json!({"name": "x", "revision": 2, "rows": []}), "names the table"),
            (serde_json::json!({"name": "x", "key": "A b", "rows": []}), "small letters"),
        ] {
            let problem = checked(wrong).err().unwrap();
            assert!(problem.detail.contains(says), "{says}: {}", problem.detail);
        }
    }
}
