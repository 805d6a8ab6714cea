//! Windows are told as it happens: one stream of server-sent events for each window. An event says only that something
//! of a topic changed; the window reads it again with its own rights. Its id holds the number reached in every topic,
//! so that a window that comes back (`Last-Event-ID`) gets what it missed, or is told to read everything again.

mod cursor;
mod room;

use aide::axum::ApiRouter;
use aide::axum::routing::get_with;
use std::convert::Infallible;
use std::sync::Arc;
use std::time::Duration;

use axum::extract::State;
use axum::http::{HeaderMap, HeaderValue, StatusCode};
use axum::response::sse::{Event, KeepAlive, Sse};
use axum::response::{IntoResponse, Response};
use futures_util::stream::{self, Stream};
use lumbo_store::{CaughtUp, Person, Store, Topic};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use tokio::sync::{broadcast, watch};
use tokio::time::Instant;
use tower_sessions::Session;
use uuid::Uuid;

use crate::answer::{LiveEvents, Sent};
use crate::api::named;
use crate::body::Query;
use crate::signed::{KEY, Signed, SignedIn};
use crate::{App, Problem};
use cursor::Cursor;

/// The name of this area in the document.
const TAG: &str = "Live";

/// What windows are told as it happens.
pub(crate) fn api() -> ApiRouter<App> {
    ApiRouter::new().api_route("/api/live", get_with(listen, named(TAG, "live", "What changes, as it happens")))
}
pub(crate) use room::Rooms;
use room::Seat;

/// Most topics of one window.
const TOPICS: usize = 8;
/// How often a window is looked after without a hint.
const POLL: Duration = Duration::from_secs(5);

/// What a window wants to hear of.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct Wanted {
    /// Topics with commas between them: `leads`, and `draft.` with a dialogue's id; 8 at most.
    topics: String,
}

/// What a window is told.
#[derive(Debug, Serialize)]
struct Told<'a> {
    topic: &'a str,
    kind: &'a str,
}

/// Topics that a person may hear of.
fn allowed(person: &Person, topic: Topic) -> bool {
    match topic {
        Topic::Leads | Topic::Notices => true,
        Topic::Draft(_) => person.role.may(lumbo_people::Action::WriteDialogues),
    }
}

pub(crate) async fn listen(
    State(app): State<App>,
    session: axum::Extension<Session>,
    Signed(person): Signed,
    headers: HeaderMap,
    Query(wanted): Query<Wanted>,
) -> Result<Sent<LiveEvents>, Problem> {
    let topics: Option<Vec<Topic>> = wanted.topics.split(',').take(TOPICS + 1).map(Topic::parse).collect();
    let topics = topics
        .filter(|topics| topics.len() <= TOPICS)
        .ok_or_else(|| Problem::bad(format!("Name 1 to {TOPICS} topics: leads, or draft. and a dialogue’s id.")))?;
    if !topics.iter().all(|topic| allowed(&person, *topic)) {
        return Err(Problem::forbidden("Dialogues are written by authors. Ask an administrator for that role."));
    }
    let busy = || {
        Problem::new(
            StatusCode::TOO_MANY_REQUESTS,
            "too-many-windows",
            "Too many windows are open. Close some and load this one again.",
        )
    };
    let seat = app.rooms.sit(person.id).ok_or_else(busy)?;
    let hints = app.store.wakes().hints();
    let before = headers
        .get("last-event-id")
        .and_then(|value| value.to_str().ok())
        .and_then(|text| Cursor::parse(text, &topics));
    let (cursor, fresh) = match before {
        Some(cursor) => (cursor, false),
        None => (Cursor::now(&app.store, person.workspace_id, &topics).await?, true),
    };
    let window = Window {
        store: app.store.clone(),
        session: session.0,
        person: person.id,
        workspace: person.workspace_id,
        cursor,
        pending: Vec::new(),
        hints,
        stop: app.stop.clone(),
        checked: Instant::now(),
        rights_every: app.rights_every,
        _seat: seat,
    };
    let first = fresh.then(|| window.event("at", None));
    let events = stream::unfold((window, first), |(mut window, first)| async move {
        let event = match first {
            Some(event) => event,
            None => window.next().await?,
        };
        Some((Ok::<_, Infallible>(event), (window, None)))
    });
    Ok(Sent::new(respond(events)))
}

fn respond(events: impl Stream<Item = Result<Event, Infallible>> + Send + 'static) -> Response {
    let mut response = Sse::new(events).keep_alive(KeepAlive::new().interval(Duration::from_secs(15))).into_response();
    // A proxy in front must not gather what is meant for now.
    response.headers_mut().insert("x-accel-buffering", HeaderValue::from_static("no"));
    response
}

/// One window that listens.
struct Window {
    store: Store,
    session: Session,
    person: Uuid,
    workspace: Uuid,
    cursor: Cursor,
    /// What is to be told, the last first.
    pending: Vec<Event>,
    hints: broadcast::Receiver<Option<Uuid>>,
    stop: watch::Receiver<bool>,
    checked: Instant,
    rights_every: Duration,
    _seat: Seat,
}

impl Window {
    fn event(&self, name: &str, told: Option<Told<'_>>) -> Event {
        let data = told.and_then(|told| serde_json::to_string(&told).ok()).unwrap_or_else(|| "{}".to_owned());
        Event::default().event(name).id(self.cursor.text()).data(data)
    }

    /// The next event; nothing where the stream ends: the server stops, or the person may not hear of it any more.
    async fn next(&mut self) -> Option<Event> {
        loop {
            if let Some(event) = self.pending.pop() {
                return Some(event);
            }
            if *self.stop.borrow() || self.checked.elapsed() >= self.rights_every && !self.may_still().await {
                return None;
            }
            self.read().await;
            if self.pending.is_empty() {
                self.wait().await;
            }
        }
    }

    /// Waits for a hint about the workspace, or for the next look.
    async fn wait(&mut self) {
        let until = Instant::now() + POLL;
        loop {
            tokio::select! {
                hint = self.hints.recv() => match hint {
                    Ok(Some(workspace)) if workspace != self.workspace => {}
                    // One that lagged behind looks as well.
                    _ => return,
                },
                () = tokio::time::sleep_until(until) => return,
                () = told_to_stop(&mut self.stop) => return,
            }
        }
    }

    async fn read(&mut self) {
        for place in 0..self.cursor.topics().len() {
            let (topic, after) = self.cursor.topics()[place];
            let name = topic.name();
            match self.store.stream_since(self.workspace, topic, after).await {
                Ok(CaughtUp::Since(entries)) => {
                    for entry in entries {
                        self.cursor.reach(place, entry.number);
                        let event = self.event("changed", Some(Told { topic: &name, kind: &entry.kind }));
                        self.pending.push(event);
                    }
                }
                Ok(CaughtUp::FromAnew(newest)) => {
                    self.cursor.reach(place, newest);
                    let event = self.event("again", Some(Told { topic: &name, kind: "all" }));
                    self.pending.push(event);
                }
                // The next look finds it.
                Err(error) => tracing::warn!(%error, "a stream could not be read"),
            }
        }
        self.pending.reverse();
    }

    /// True where the person is still signed in here and may still hear of every topic. A database that does not answer
    /// takes nobody's rights; it gives nobody news either.
    async fn may_still(&mut self) -> bool {
        self.checked = Instant::now();
        let signed = match self.session.load().await {
            Ok(()) => self.session.get::<SignedIn>(KEY).await.ok().flatten(),
            Err(_) => return true,
        };
        if signed.is_none_or(|signed| signed.person != self.person) {
            return false;
        }
        match self.store.person(self.workspace, self.person).await {
            Ok(person) => {
                person.is_some_and(|person| self.cursor.topics().iter().all(|(topic, _)| allowed(&person, *topic)))
            }
            Err(_) => true,
        }
    }
}

/// Waits until the server is told to stop; for ever where nobody is left to tell it.
async fn told_to_stop(stop: &mut watch::Receiver<bool>) {
    if stop.changed().await.is_err() {
        std::future::pending::<()>().await;
    }
}

/// Rooms for windows, shared by all requests.
pub(crate) fn rooms() -> Arc<Rooms> {
    Arc::new(Rooms::default())
}
