//! Nobody sees another workspace, and nobody does what their role does not allow: for every route there is.
#![allow(clippy::unwrap_used, clippy::panic, reason = "helpers of tests are tests")]

use std::collections::BTreeSet;

use crate::common::Fixture;
use axum::http::{Method, StatusCode};
use lumbo_people::{Action, Role};
use serde_json::{Value, json};
use uuid::Uuid;

/// A PNG picture of one pixel, as base64.
const PICTURE: &str =
    "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNkYPhfDwAChwGA60e6kgAAAABJRU5ErkJggg==";

/// The id of a list that everybody keeps for themselves.
const LENS: &str = "00000000-0000-0000-0000-0000000000a1";
/// A saved reply of the tested workspace.
const REPLY: &str = "00000000-0000-0000-0000-0000000000a2";
/// An id that nothing has.
const GONE: &str = "00000000-0000-0000-0000-0000000000a3";

/// Who may use a route.
#[derive(Clone, Copy, PartialEq)]
pub enum Who {
    /// Whoever comes.
    Anybody,
    /// Whoever is signed in with a role that may do it.
    May(Action),
    /// A prospect without a token.
    Prospect,
    /// A prospect with the conversation's token.
    Token,
    /// Anybody who is signed in, as a stream of events.
    Stream,
    /// A browser that comes back from a sign-in provider.
    CameBack,
}

const SIGNED: Who = Who::May(Action::BeSignedIn);
const LEAD_READER: Who = Who::May(Action::ReadLeads);
const AUDITOR: Who = Who::May(Action::ReadAudit);
const WRITER: Who = Who::May(Action::WriteDialogues);
const LEAD_WORKER: Who = Who::May(Action::WorkLeads);
const ADMINISTRATOR: Who = Who::May(Action::ManagePeople);
const TEAM_LEAD: Who = Who::May(Action::LeadTeam);
const WATCHER: Who = Who::May(Action::WatchSending);
const SECRET_KEEPER: Who = Who::May(Action::HandleSecrets);
const DATA_KEEPER: Who = Who::May(Action::KeepData);

/// Everybody of a workspace of the fixture, with their role.
const ROLES: [(&str, Role); 5] = [
    ("author", Role::Author),
    ("rep", Role::Rep),
    ("lead", Role::RepLead),
    ("admin", Role::Administrator),
    ("viewer", Role::Viewer),
];

/// Routes that want more than this test gives them: whoever may use them is refused by what they say, not by the role.
const WANTS_MORE: [&str; 9] = [
    "/api/leads/{lead}/mails/{mail}/back",
    "/api/profile/provider",
    "/api/profile/provider/off",
    "/api/profile/second-factor/on",
    "/api/team/{person}/share-out",
    "/api/leads/{lead}/back",
    "/api/held-back/{conversation}",
    "/api/destinations/{destination}/schema",
    "/api/destinations/{destination}/choice",
];

/// Every route: method, path, who may use it, a body, and whether it names something of a workspace.
pub fn table() -> Vec<(Method, &'static str, Who, Option<Value>, bool)> {
    let (get, post) = (Method::GET, Method::POST);
    vec![
        (
            post.clone(),
            "/api/sign-in",
            Who::Anybody,
            Some(json!({"email": "author@a.example", "password": crate::common::PASSWORD})),
            false,
        ),
        (get.clone(), "/api/sign-in/provider", Who::Anybody, None, false),
        (post.clone(), "/api/sign-in/provider", Who::Anybody, Some(json!({"then": "/"})), false),
        (get.clone(), "/api/sign-in/provider/back", Who::CameBack, None, false),
        (get.clone(), "/api/profile/provider", SIGNED, None, false),
        (post.clone(), "/api/profile/provider", SIGNED, Some(json!({"password": "x"})), false),
        (post.clone(), "/api/profile/provider/off", SIGNED, Some(json!({"password": "x"})), false),
        (get.clone(), "/api/me", SIGNED, None, false),
        (get.clone(), "/api/dialogues", WRITER, None, false),
        (post.clone(), "/api/dialogues", WRITER, Some(json!({"title": "New one"})), false),
        (post.clone(), "/api/dialogues/read", WRITER, Some(json!({"pattern": "machine-hire"})), false),
        (get.clone(), "/api/dialogues/{dialogue}/draft", WRITER, None, true),
        (get.clone(), "/api/dialogues/{dialogue}/draft/analysis", WRITER, None, true),
        (
            post.clone(),
            "/api/dialogues/{dialogue}/draft",
            WRITER,
            Some(json!({"base": 2, "edits": [{"op": "set_title", "title": "T"}]})),
            true,
        ),
        (get.clone(), "/api/dialogues/{dialogue}/history", WRITER, None, true),
        (get.clone(), "/api/dialogues/{dialogue}/file", WRITER, None, true),
        (post.clone(), "/api/dialogues/{dialogue}/rehearsal", WRITER, Some(json!({"inputs": []})), true),
        (get.clone(), "/api/dialogues/{dialogue}/releases", WRITER, None, true),
        (post.clone(), "/api/dialogues/{dialogue}/releases", WRITER, Some(json!({"revision": 3, "note": "n"})), true),
        (get.clone(), "/api/dialogues/{dialogue}/opening", WRITER, None, true),
        (get.clone(), "/api/dialogues/{dialogue}/releases/compare", WRITER, None, true),
        (get.clone(), "/api/dialogues/{dialogue}/releases/{number}", WRITER, None, true),
        (post.clone(), "/api/dialogues/{dialogue}/on-air", WRITER, Some(json!({"number": 2})), true),
        (post.clone(), "/api/dialogues/{dialogue}/find", WRITER, Some(json!({"search": {"find": "pallets"}})), true),
        (get.clone(), "/api/dialogues/{dialogue}/ledger", WRITER, None, true),
        (get.clone(), "/api/dialogues/{dialogue}/phrases", WRITER, None, true),
        (post.clone(), "/api/dialogues/{dialogue}/formula", WRITER, Some(json!({"formula": "pallets * 2"})), true),
        (
            post.clone(),
            "/api/dialogues/{dialogue}/condition",
            WRITER,
            Some(json!({"text": "Pallets at least 2"})),
            true,
        ),
        (
            post.clone(),
            "/api/dialogues/{dialogue}/understand",
            WRITER,
            Some(json!({"text": "How many?", "at": {"parent": {"section": "need"}, "index": 0}})),
            true,
        ),
        (post.clone(), "/api/dialogues/{dialogue}/presence", WRITER, Some(json!({"at": "turn:t_load"})), true),
        (get.clone(), "/api/dialogues/{dialogue}/comments", WRITER, None, true),
        (
            post.clone(),
            "/api/dialogues/{dialogue}/comments",
            WRITER,
            Some(json!({"at": "turn:t_load", "says": "harrow?"})),
            true,
        ),
        (post.clone(), "/api/dialogues/{dialogue}/comments/{comment}", WRITER, Some(json!({"resolved": true})), true),
        (post.clone(), "/api/dialogues/{dialogue}/bench", WRITER, Some(json!({})), true),
        (post.clone(), "/api/dialogues/{dialogue}/bench/glance", WRITER, Some(json!({"csv": "a,b\n1,2\n"})), true),
        (
            post.clone(),
            "/api/dialogues/{dialogue}/bench/file",
            WRITER,
            Some(json!({"csv": "a,b\n1,2\n", "mapping": {"fields": {}, "outcome": 0, "won": [], "lost": []}})),
            true,
        ),
        (post.clone(), "/api/dialogues/{dialogue}/suggest", WRITER, Some(json!({})), true),
        (post.clone(), "/api/dialogues/{dialogue}/score", WRITER, Some(json!({"answers": {"pallets": "60"}})), true),
        (get.clone(), "/api/patterns", WRITER, None, false),
        (post.clone(), "/api/media", WRITER, Some(json!({"content": PICTURE})), false),
        (get.clone(), "/api/media/{hash}", WRITER, None, true),
        (get.clone(), "/api/p/{slug}/media/{hash}", Who::Prospect, None, false),
        (get.clone(), "/api/fields", WRITER, None, false),
        (
            post.clone(),
            "/api/fields",
            WRITER,
            Some(json!({"field": {"id": "fld_x", "key": "x", "label": "X", "type": "text"}})),
            false,
        ),
        (
            post.clone(),
            "/api/fields/preview",
            WRITER,
            Some(json!({"field": {"id": "fld_x", "key": "x", "label": "X", "type": "text"}})),
            false,
        ),
        (post.clone(), "/api/fields/import", WRITER, Some(json!({"csv": "key,label,type\n"})), false),
        (Method::DELETE, "/api/fields/{field}", WRITER, None, true),
        (get.clone(), "/api/catalogue", WRITER, None, false),
        (get.clone(), "/api/catalogue.csv", WRITER, None, false),
        (get.clone(), "/api/settings/domains", WRITER, None, false),
        (post.clone(), "/api/settings/domains", WRITER, Some(json!({"base": 0, "allow": [], "deny": []})), false),
        (get.clone(), "/api/settings/visitor-keys", SECRET_KEEPER, None, false),
        (post.clone(), "/api/settings/visitor-keys", SECRET_KEEPER, Some(json!({})), false),
        (Method::DELETE, "/api/settings/visitor-keys/{key}", SECRET_KEEPER, None, true),
        (post.clone(), "/api/settings/visitor-token", SECRET_KEEPER, Some(json!({"token": "x"})), false),
        (get.clone(), "/api/queues", WRITER, None, false),
        (get.clone(), "/api/leads.csv", LEAD_READER, None, false),
        (get.clone(), "/api/tags", LEAD_READER, None, false),
        (get.clone(), "/api/leads/looked-for", LEAD_READER, None, false),
        (get.clone(), "/api/lenses", LEAD_READER, None, false),
        (
            post.clone(),
            "/api/lenses",
            LEAD_READER,
            Some(json!({"id": LENS, "name": "Fairs", "shows": "all", "search": "#fair"})),
            false,
        ),
        (Method::DELETE, "/api/lenses/{lens}", LEAD_READER, None, true),
        (post.clone(), "/api/leads/{lead}/tags", LEAD_WORKER, Some(json!({"tag": "harrow", "on": true})), true),
        (get.clone(), "/api/routing", WRITER, None, false),
        (post.clone(), "/api/routing", WRITER, Some(json!({"name": "New queue", "picks": "rotation"})), false),
        (
            post.clone(),
            "/api/routing/holidays",
            WRITER,
            Some(json!({"text": "BEGIN:VCALENDAR\r\nVERSION:2.0\r\nEND:VCALENDAR\r\n"})),
            false,
        ),
        (
            post.clone(),
            "/api/routing/territories",
            WRITER,
            Some(json!({"name": "Depots", "rows": [{"starts": "SW1", "queue": "aldermoor"}]})),
            false,
        ),
        (Method::DELETE, "/api/routing/territories/{table}", WRITER, None, true),
        (post.clone(), "/api/routing/people/{person}", WRITER, Some(json!({"paused": false})), true),
        (post.clone(), "/api/dialogues/{dialogue}/route", WRITER, Some(json!({"answers": {}})), true),
        (post.clone(), "/api/dialogues/{dialogue}/route/again", WRITER, Some(json!({"days": 30})), true),
        (get.clone(), "/api/leads", LEAD_READER, None, false),
        // A stream that does not end by itself: suite/live.rs.
        (get.clone(), "/api/live", Who::Stream, None, false),
        (get.clone(), "/api/leads/{lead}", LEAD_READER, None, true),
        (
            post.clone(),
            "/api/leads/{lead}/outcome",
            LEAD_WORKER,
            Some(json!({"revision": 1, "status": "trying"})),
            true,
        ),
        (post.clone(), "/api/leads/{lead}/given/{given}", LEAD_WORKER, Some(json!({"accepted": true})), true),
        (
            post.clone(),
            "/api/leads/{lead}/calls",
            LEAD_WORKER,
            Some(json!({"revision": 2, "outcome": "no_reply"})),
            true,
        ),
        (post.clone(), "/api/leads/{lead}/next", LEAD_WORKER, Some(json!({"revision": 3, "at": "@soon"})), true),
        (post.clone(), "/api/leads/{lead}/notes", LEAD_WORKER, Some(json!({"text": "call the site"})), true),
        (post.clone(), "/api/leads/{lead}/owner", LEAD_WORKER, Some(json!({"revision": 4, "to": "@rep"})), true),
        (post.clone(), "/api/leads/{lead}/back", LEAD_WORKER, Some(json!({})), true),
        (get.clone(), "/api/takers", LEAD_WORKER, None, false),
        (post.clone(), "/api/leads/{lead}/newer", LEAD_WORKER, None, true),
        (post.clone(), "/api/leads/{lead}/fit", LEAD_WORKER, Some(json!({"revision": 6, "fits": true})), true),
        (get.clone(), "/api/leads/{lead}/today", LEAD_READER, None, true),
        (get.clone(), "/api/placements", WRITER, None, false),
        (post.clone(), "/api/placements/try", WRITER, Some(json!({"url": "https://w.example/"})), false),
        (
            post.clone(),
            "/api/dialogues/{dialogue}/placements",
            WRITER,
            Some(json!({"name": "New", "form": "corner"})),
            true,
        ),
        (
            post.clone(),
            "/api/placements/{placement}",
            WRITER,
            Some(json!({"revision": 2, "draft": {"id": "", "name": "harrow", "form": "page"}})),
            true,
        ),
        (get.clone(), "/api/placements/{placement}/releases", WRITER, None, true),
        (post.clone(), "/api/placements/{placement}/releases", WRITER, Some(json!({"revision": 3})), true),
        (post.clone(), "/api/placements/{placement}/act", WRITER, Some(json!({"act": "up"})), true),
        (get.clone(), "/api/placements/{placement}/qr", WRITER, None, true),
        (get.clone(), "/api/at/{name}/picture", Who::Prospect, None, false),
        (get.clone(), "/api/at/{name}", Who::Prospect, None, false),
        (post.clone(), "/api/at/{name}/opened", Who::Prospect, None, false),
        (get.clone(), "/api/p/{slug}", Who::Prospect, None, false),
        (post.clone(), "/api/p/{slug}/conversations", Who::Prospect, Some(json!({"id": "s"})), false),
        (get.clone(), "/api/conversation", Who::Token, None, false),
        (
            post.clone(),
            "/api/conversation/inputs",
            Who::Token,
            Some(json!({"id": "x", "expects": 10, "body": {"kind": "reply", "text": "a"}})),
            false,
        ),
        (get.clone(), "/api/setup", Who::Anybody, None, false),
        (
            post.clone(),
            "/api/setup",
            Who::Anybody,
            Some(json!({"code": "x", "workspace": "w", "zone": "UTC", "name": "n", "email": "e@x.example",
                "password": "p"})),
            false,
        ),
        (post.clone(), "/api/join/look", Who::Anybody, Some(json!({"secret": "x"})), false),
        (post.clone(), "/api/reset/ask", Who::Anybody, Some(json!({"email": "x@a.example"})), false),
        (post.clone(), "/api/reset/look", Who::Anybody, Some(json!({"secret": "x"})), false),
        (post.clone(), "/api/reset", Who::Anybody, Some(json!({"secret": "x", "password": "p"})), false),
        (post.clone(), "/api/join", Who::Anybody, Some(json!({"secret": "x", "password": "p"})), false),
        (get.clone(), "/api/profile", SIGNED, None, false),
        (post.clone(), "/api/profile", SIGNED, Some(json!({"name": "New name", "email": "@own"})), false),
        (
            post.clone(),
            "/api/profile/password",
            SIGNED,
            Some(json!({"old": crate::common::PASSWORD, "new": "winter is long and dark"})),
            false,
        ),
        (
            post.clone(),
            "/api/profile/second-factor",
            SIGNED,
            Some(json!({"password": "winter is long and dark"})),
            false,
        ),
        (post.clone(), "/api/profile/second-factor/on", SIGNED, Some(json!({"code": "000000"})), false),
        (
            post.clone(),
            "/api/profile/second-factor/off",
            SIGNED,
            Some(json!({"password": "winter is long and dark"})),
            false,
        ),
        (get.clone(), "/api/destinations", WATCHER, None, false),
        (
            post.clone(),
            "/api/destinations",
            SECRET_KEEPER,
            Some(json!({"revision": 0, "name": "New", "kind": "chat", "address": "https://chat.example/x",
                "events": ["lead.filed"]})),
            false,
        ),
        (get.clone(), "/api/destinations/{destination}/sendings", WATCHER, None, true),
        (post.clone(), "/api/destinations/{destination}/secret", SECRET_KEEPER, Some(json!({})), true),
        (post.clone(), "/api/destinations/{destination}/test", SECRET_KEEPER, Some(json!({})), true),
        (post.clone(), "/api/destinations/{destination}/again", SECRET_KEEPER, Some(json!({})), true),
        (get.clone(), "/api/destinations/{destination}/mapping", WATCHER, None, true),
        (
            post.clone(),
            "/api/destinations/{destination}/mapping",
            SECRET_KEEPER,
            Some(json!({"revision": 1, "mapping": {}, "keep": true})),
            true,
        ),
        (get.clone(), "/api/imports", TEAM_LEAD, None, false),
        (get.clone(), "/api/imports/form", LEAD_WORKER, None, false),
        (
            post.clone(),
            "/api/imports/look",
            TEAM_LEAD,
            Some(json!({"dialogue": "@dialogue", "csv": "pallets\n40\n"})),
            false,
        ),
        (post.clone(), "/api/imports/preview", LEAD_WORKER, Some(json!({"dialogue": "@dialogue", "rows": []})), false),
        (
            post.clone(),
            "/api/imports",
            TEAM_LEAD,
            Some(json!({"dialogue": "@dialogue", "file": "x.csv", "source": "harrow", "ground": "asked"})),
            false,
        ),
        (
            post.clone(),
            "/api/imports/hand",
            LEAD_WORKER,
            Some(json!({"about": {"dialogue": "@dialogue", "source": "s", "ground": "g"},
                "answers": {"email": "x@harrow.example"}})),
            false,
        ),
        (post.clone(), "/api/imports/{import}/rows", TEAM_LEAD, Some(json!({"rows": []})), true),
        (post.clone(), "/api/imports/{import}/undo", TEAM_LEAD, Some(json!({})), true),
        (
            post.clone(),
            "/api/record-files/look",
            TEAM_LEAD,
            Some(json!({"holds": "companies", "csv": "domain\nquince.example\n"})),
            false,
        ),
        (
            post.clone(),
            "/api/record-files/preview",
            TEAM_LEAD,
            Some(json!({"holds": "companies", "rows": [{"line": 2, "answers": {"domain": "quince.example"}}]})),
            false,
        ),
        (get.clone(), "/api/record-files", TEAM_LEAD, None, false),
        (
            post.clone(),
            "/api/record-files",
            TEAM_LEAD,
            Some(json!({"holds": "contacts", "file": "x.csv", "source": "harrow", "ground": "asked"})),
            false,
        ),
        (post.clone(), "/api/record-files/{file}/rows", TEAM_LEAD, Some(json!({"rows": []})), true),
        (post.clone(), "/api/record-files/{file}/undo", TEAM_LEAD, None, true),
        (get.clone(), "/api/notices", SIGNED, None, false),
        (post.clone(), "/api/notices/seen", SIGNED, Some(json!({})), false),
        (get.clone(), "/api/alerts", SIGNED, None, false),
        (post.clone(), "/api/alerts", SIGNED, Some(json!({"sound": true})), false),
        (
            post.clone(),
            "/api/team/{person}/absences",
            TEAM_LEAD,
            Some(json!({"from": "2126-11-24", "until": "2126-11-25"})),
            true,
        ),
        (Method::DELETE, "/api/team/{person}/absences/{absence}", TEAM_LEAD, None, true),
        (post.clone(), "/api/destinations/{destination}/schema", SECRET_KEEPER, Some(json!({})), true),
        (
            post.clone(),
            "/api/destinations/{destination}/choice",
            SECRET_KEEPER,
            Some(json!({"sending": Uuid::now_v7(), "outside_id": "7"})),
            true,
        ),
        (
            post.clone(),
            "/api/destinations/{destination}/backfill",
            SECRET_KEEPER,
            Some(json!({"days": 30, "send": false})),
            true,
        ),
        (post.clone(), "/api/destinations/{destination}", SECRET_KEEPER, Some(json!({"act": "pause"})), true),
        (get.clone(), "/api/webhook-schema", WATCHER, None, false),
        (get.clone(), "/api/people", ADMINISTRATOR, None, false),
        (post.clone(), "/api/people/{person}", ADMINISTRATOR, Some(json!({"active": true})), true),
        (get.clone(), "/api/team", TEAM_LEAD, None, false),
        (post.clone(), "/api/team/{person}", TEAM_LEAD, Some(json!({"paused": false})), true),
        (post.clone(), "/api/team/{person}/share-out", TEAM_LEAD, Some(json!({})), true),
        (
            post.clone(),
            "/api/invitations",
            ADMINISTRATOR,
            Some(json!({"email": "new@a.example", "role": "viewer"})),
            false,
        ),
        (Method::DELETE, "/api/invitations/{invitation}", ADMINISTRATOR, None, true),
        (get.clone(), "/api/settings/workspace", ADMINISTRATOR, None, false),
        (
            post.clone(),
            "/api/settings/workspace",
            ADMINISTRATOR,
            Some(json!({"revision": 0, "name": "New name", "zone": "Europe/Berlin"})),
            false,
        ),
        (get.clone(), "/api/audit", AUDITOR, None, false),
        (post.clone(), "/api/profile/picture", SIGNED, Some(json!({"content": PICTURE})), false),
        (get.clone(), "/api/people/{person}/picture", SIGNED, None, true),
        (post.clone(), "/api/workspace/picture", ADMINISTRATOR, Some(json!({"content": PICTURE})), false),
        (get.clone(), "/api/workspace/picture", SIGNED, None, false),
        (get.clone(), "/api/tokens", SECRET_KEEPER, None, false),
        (
            post.clone(),
            "/api/tokens",
            SECRET_KEEPER,
            Some(json!({"name": "n", "scopes": ["read_leads"], "days": 1})),
            false,
        ),
        (post.clone(), "/api/tokens/{token}/end", SECRET_KEEPER, None, true),
        (get.clone(), "/api/running", ADMINISTRATOR, None, false),
        (post.clone(), "/api/running/jobs/{job}/again", ADMINISTRATOR, None, true),
        (get.clone(), "/api/audit.csv", AUDITOR, None, false),
        (get.clone(), "/api/dialogues/{dialogue}/answers", WRITER, None, true),
        (get.clone(), "/api/dialogues/{dialogue}/answers.csv", WRITER, None, true),
        (get.clone(), "/api/dialogues/{dialogue}/answers.xlsx", WRITER, None, true),
        (get.clone(), "/api/dialogues/{dialogue}/conversations/{conversation}", WRITER, None, true),
        (get.clone(), "/api/requests", LEAD_READER, None, false),
        (get.clone(), "/api/requests/{request}", LEAD_READER, None, true),
        (post.clone(), "/api/requests/{request}", LEAD_WORKER, Some(json!({"revision": 1, "act": "reopen"})), true),
        (get.clone(), "/api/held-back", TEAM_LEAD, None, false),
        (post.clone(), "/api/held-back/{conversation}", TEAM_LEAD, Some(json!({"file": true})), true),
        (get.clone(), "/api/tasks", LEAD_READER, None, false),
        (
            post.clone(),
            "/api/leads/{lead}/tasks",
            LEAD_WORKER,
            Some(json!({"says": "Send the price list", "due_at": "2026-12-01T09:00:00Z"})),
            true,
        ),
        (post.clone(), "/api/tasks/{task}", LEAD_WORKER, Some(json!({"done": true})), true),
        (get.clone(), "/api/contacts", LEAD_READER, None, false),
        (get.clone(), "/api/contacts/{contact}", LEAD_READER, None, true),
        (
            post.clone(),
            "/api/contacts/{contact}",
            LEAD_WORKER,
            Some(json!({"what": "name", "value": "Pia Harrow"})),
            true,
        ),
        (get.clone(), "/api/contacts/{contact}/card", LEAD_READER, None, true),
        (get.clone(), "/api/contacts/{contact}/alike", LEAD_WORKER, None, true),
        (post.clone(), "/api/contacts/{contact}/merge/{other}", LEAD_WORKER, Some(json!({})), true),
        (post.clone(), "/api/contacts/{contact}/merge", LEAD_WORKER, Some(json!({"other": "@other"})), true),
        (post.clone(), "/api/merges/{merge}/undo", LEAD_WORKER, None, true),
        (get.clone(), "/api/contacts/{contact}/held", DATA_KEEPER, None, true),
        (
            post.clone(),
            "/api/contacts/{contact}/reach",
            LEAD_WORKER,
            Some(json!({"prefers": "mail", "refuses": ["call"]})),
            true,
        ),
        (
            post.clone(),
            "/api/contacts/{contact}/permissions",
            LEAD_WORKER,
            Some(json!({"purpose": "marketing", "channel": "mail", "given": true, "says": "On the phone"})),
            true,
        ),
        (post.clone(), "/api/contacts/{contact}/tags", LEAD_WORKER, Some(json!({"tag": "harrow", "on": true})), true),
        (get.clone(), "/api/leads/{lead}/mails", LEAD_WORKER, None, true),
        (
            post.clone(),
            "/api/leads/{lead}/mails",
            LEAD_WORKER,
            Some(json!({"id": Uuid::now_v7(), "subject": "Hello", "body": "Hello"})),
            true,
        ),
        (post.clone(), "/api/leads/{lead}/mails/{mail}/back", LEAD_WORKER, None, true),
        (get.clone(), "/api/replies", LEAD_READER, None, false),
        (
            post.clone(),
            "/api/replies",
            LEAD_WORKER,
            Some(json!({"id": REPLY, "name": "harrow", "subject": "a", "body": "b", "revision": 0})),
            false,
        ),
        (Method::DELETE, "/api/replies/{reply}", LEAD_WORKER, None, true),
        (get.clone(), "/api/companies", LEAD_READER, None, false),
        (get.clone(), "/api/companies/{company}", LEAD_READER, None, true),
        (post.clone(), "/api/companies/{company}", LEAD_WORKER, Some(json!({"standing": "customer"})), true),
        (get.clone(), "/api/settings/keeping", DATA_KEEPER, None, false),
        (
            post.clone(),
            "/api/settings/keeping",
            DATA_KEEPER,
            Some(json!({"unreached_days": 30, "unfinished_days": 90, "lead_months": 24})),
            false,
        ),
        (get, "/api/contacts/{contact}/erasure", DATA_KEEPER, None, true),
        (
            post.clone(),
            "/api/contacts/{contact}/erasure",
            DATA_KEEPER,
            // With the one that became one with it.
            Some(json!({"leads": 2, "conversations": 2})),
            true,
        ),
        (post.clone(), "/api/workspace", SIGNED, Some(json!({"workspace": "@own"})), false),
        (post.clone(), "/api/profile/sessions/end-others", SIGNED, Some(json!({})), false),
        (post, "/api/sign-out", SIGNED, None, false),
    ]
}

/// The password that everybody of the first workspace has after the route that changes it.
const NEW_PASSWORD: &str = "winter is long and dark";

/// Sessions by address: hashing a password takes its time.
#[derive(Default)]
struct Sessions(std::collections::HashMap<String, String>);

impl Sessions {
    async fn of(&mut self, fixture: &Fixture, email: &str) -> String {
        if let Some(known) = self.0.get(email) {
            return known.clone();
        }
        let session = fixture.sign_in(email).await;
        self.0.insert(email.to_owned(), session.clone());
        session
    }
}

#[test]
fn the_table_names_every_route() {
    let document = serde_json::to_value(lumbo_server::openapi()).unwrap();
    let mut documented = BTreeSet::new();
    for (path, item) in document["paths"].as_object().unwrap() {
        for method in item
            .as_object()
            .unwrap()
            .keys()
            .filter(|key| ["get", "post", "put", "patch", "delete"].contains(&key.as_str()))
        {
            documented.insert(format!("{} {path}", method.to_uppercase()));
        }
    }
    let listed: BTreeSet<String> = table().iter().map(|(method, path, ..)| format!("{method} {path}")).collect();
    assert_eq!(listed, documented, "a route that is not in the table is not tested for isolation");
}

#[tokio::test]
async fn every_route_keeps_its_workspace_and_its_role() {
    let fixture = Fixture::new().await;
    let token = fixture.file_lead("storage-a", "harrow").await;
    fixture.file_lead("storage-b", "kettle").await;
    fixture.file_lead("storage-a", "harrowby").await;
    let rep = fixture.sign_in("rep@a.example").await;
    let lead = fixture.get("/api/leads?show=mine", &rep).await.json["leads"][0]["id"].as_str().unwrap().to_owned();
    let owed = json!({"says": "Call harrow back", "due_at": "2026-12-01T09:00:00Z"});
    let task = fixture.post(&format!("/api/leads/{lead}/tasks"), &rep, owed).await.json["tasks"][0]["id"].clone();
    let task = task.as_str().unwrap().to_owned();
    // A picture that release 2 shows, and a comment.
    let author = fixture.sign_in("author@a.example").await;
    let dialogue = fixture.dialogues[0].to_string();
    let hash = fixture.post("/api/media", &author, json!({"content": PICTURE})).await.json["hash"]
        .as_str()
        .unwrap()
        .to_owned();
    let edits = json!({"base": 1, "edits": [{"op": "set_media", "hash": hash, "media_type": "image/png"}]});
    assert_eq!(fixture.post(&format!("/api/dialogues/{dialogue}/draft"), &author, edits).await.status, StatusCode::OK);
    let released = fixture
        .post(&format!("/api/dialogues/{dialogue}/releases"), &author, json!({"revision": 2, "note": "with a picture"}))
        .await;
    assert_eq!(released.status, StatusCode::OK, "{released:?}");
    let comment = fixture
        .post(&format!("/api/dialogues/{dialogue}/comments"), &author, json!({"at": "turn:t_load", "says": "harrow?"}))
        .await
        .json["id"]
        .clone();
    let field = json!({"id": "fld_gone", "key": "gone", "label": "harrow's", "type": "text"});
    assert_eq!(fixture.post("/api/fields", &author, json!({"field": field})).await.status, StatusCode::OK);
    let admin = fixture.sign_in("admin@a.example").await;
    let key = fixture.post("/api/settings/visitor-keys", &admin, json!({})).await.json["id"].clone();
    let api_token = json!({"name": "harrow", "scopes": ["read_leads"], "days": 30});
    let api_token = fixture.post("/api/tokens", &admin, api_token).await.json["id"].clone();
    let invitation = json!({"email": "guest@a.example", "role": "rep"});
    let invitation = fixture.post("/api/invitations", &admin, invitation).await.json["id"].clone();
    let destination = json!({"revision": 0, "name": "harrow", "kind": "webhook",
        "address": "https://receiver.example/x",
        "events": ["lead.filed"]});
    let destination = fixture.post("/api/destinations", &admin, destination).await.json["id"].clone();
    let sheet = json!({"revision": 0, "name": "harrow’s sheet", "kind": "sheet",
        "address": "https://receiver.example/sheet", "events": ["lead.filed"]});
    let sheet = fixture.post("/api/destinations", &admin, sheet).await.json["id"].clone();
    let placements = format!("/api/dialogues/{dialogue}/placements");
    let placement = fixture.post(&placements, &author, json!({"name": "harrow", "form": "page"})).await.json;
    let placement = placement["id"].as_str().unwrap().to_owned();
    let drawn = json!({"id": "", "name": "harrow", "form": "page", "look": {"picture": hash}});
    let path = format!("/api/placements/{placement}");
    let changed = fixture.post(&path, &author, json!({"revision": 1, "draft": drawn})).await;
    assert_eq!(changed.status, StatusCode::OK, "{changed:?}");
    let released = fixture.post(&format!("{path}/releases"), &author, json!({"revision": 2, "note": "first"})).await;
    assert_eq!(released.status, StatusCode::OK, "{released:?}");
    // Another of theirs, which stays as it is released while the first is changed.
    let placed = fixture.post(&placements, &author, json!({"name": "shown", "form": "page"})).await.json;
    let placed = placed["id"].as_str().unwrap().to_owned();
    let path = format!("/api/placements/{placed}");
    fixture.post(&path, &author, json!({"revision": 1, "draft": drawn})).await;
    fixture.post(&format!("{path}/releases"), &author, json!({"revision": 2})).await;
    let workspace = fixture.get("/api/me", &admin).await.json["workspace_id"].clone();
    let person = fixture.get("/api/me", &rep).await.json["id"].clone();
    let absences = format!("/api/team/{}/absences", person.as_str().unwrap());
    fixture.post(&absences, &admin, json!({"from": "2126-01-05", "until": "2126-01-06"})).await;
    let absence = fixture.get("/api/team", &admin).await.json["absences"][0]["id"].as_str().unwrap().to_owned();
    let import = json!({"dialogue": dialogue, "file": "x.csv", "source": "harrow", "ground": "asked"});
    let import = fixture.post("/api/imports", &admin, import).await.json["id"].as_str().unwrap().to_owned();
    let file = json!({"holds": "companies", "file": "x.csv", "source": "harrow", "ground": "asked"});
    let file = fixture.post("/api/record-files", &admin, file).await.json["id"].as_str().unwrap().to_owned();
    let given = uuid::Uuid::from_u128(5).to_string();
    let mut db = fixture.connect().await;
    let waits = "insert into also_given (workspace_id, id, contact_id, lead_id, conversation_id, what, value, given_at)
        select workspace_id, $1::uuid, contact_id, id, shows, 'name', 'Pia Harrow', now() from leads
          where id = $2::uuid";
    sqlx::query(waits).bind(&given).bind(&lead).execute(&mut db).await.unwrap();
    sqlx::query("update leads set newer = shows where id = $1::uuid").bind(&lead).execute(&mut db).await.unwrap();
    let ids = "select contact_id, company_id, shows from leads where id = $1::uuid";
    let (contact, company, conversation): (uuid::Uuid, uuid::Uuid, uuid::Uuid) =
        sqlx::query_as(ids).bind(&lead).fetch_one(&mut db).await.unwrap();
    let other_admin = fixture.sign_in("admin@b.example").await;
    fixture.post("/api/workspace/picture", &other_admin, json!({"content": PICTURE})).await;
    let job = uuid::Uuid::from_u128(9).to_string();
    let given_up =
        "insert into jobs (workspace_id, id, kind, subject, key, state, due_at, made_at, ended_at, last_error)
        select workspace_id, $1::uuid, 'deal', id, 'harrow', 'parked', now(), now(), now(), 'harrow' from leads
          where id = $2::uuid";
    sqlx::query(given_up).bind(&job).bind(&lead).execute(&mut db).await.unwrap();
    let request = uuid::Uuid::from_u128(6).to_string();
    let asks = "insert into requests (workspace_id, id, dialogue_id, conversation_id, label, queue_id, name, words,
        fields, transcript, due_at, made_at)
        select workspace_id, $1::uuid, dialogue_id, shows, 'Question', queue_id, 'Pia Harrow', 'harrow?', '[]', '[]',
          now(), now() from leads where id = $2::uuid";
    sqlx::query(asks).bind(&request).bind(&lead).execute(&mut db).await.unwrap();
    let others = "select l.contact_id from leads l join leads k on k.workspace_id = l.workspace_id
        and k.contact_id <> l.contact_id where k.id = $1::uuid";
    let other: uuid::Uuid = sqlx::query_scalar(others).bind(&lead).fetch_one(&mut db).await.unwrap();
    // A merge that was made before, of somebody without leads.
    let merge = uuid::Uuid::from_u128(7).to_string();
    let gone = uuid::Uuid::from_u128(8);
    let went = "insert into contacts (id, workspace_id, name, made_at, merged_into)
        select $1, workspace_id, 'P', now(), id from contacts where id = $2";
    sqlx::query(went).bind(gone).bind(contact).execute(&mut db).await.unwrap();
    let moved = json!({"leads": [], "also_given": [], "requests": [], "merges": [], "before": {}, "after": {},
        "gone": {}, "values": []});
    let merged = "insert into merges (workspace_id, id, kept_id, gone_id, emails, moved, made_at)
        select workspace_id, $1::uuid, id, $2, '{}', $3, now() from contacts where id = $4";
    sqlx::query(merged).bind(&merge).bind(gone).bind(moved).bind(contact).execute(&mut db).await.unwrap();
    let fill = |path: &str| {
        let query = match path {
            "/api/leads" | "/api/leads.csv" => "?show=all",
            "/api/dialogues/{dialogue}/releases/compare" => "?from=1",
            "/api/routing/territories/{table}" => "?revision=1",
            _ => "",
        };
        path.replace("{dialogue}", &dialogue)
            .replace("{lead}", &lead)
            .replace("{given}", &given)
            .replace("{slug}", "storage-a")
            .replace("{number}", "1")
            .replace("{hash}", &hash)
            .replace("{comment}", comment.as_str().unwrap())
            .replace("{person}", person.as_str().unwrap())
            .replace("{invitation}", invitation.as_str().unwrap())
            .replace("{destination}", if path.ends_with("/mapping") { &sheet } else { &destination }.as_str().unwrap())
            .replace("{placement}", &placement)
            .replace("{request}", &request)
            .replace("{contact}", &contact.to_string())
            .replace("{other}", &other.to_string())
            .replace("{merge}", &merge)
            .replace("{absence}", &absence)
            .replace("{import}", &import)
            .replace("{file}", &file)
            .replace("{company}", &company.to_string())
            .replace("{conversation}", &conversation.to_string())
            .replace("{name}", &placed)
            .replace("{field}", "fld_gone")
            .replace("{table}", "depots")
            .replace("{lens}", LENS)
            .replace("{mail}", GONE)
            .replace("{reply}", REPLY)
            .replace("{task}", &task)
            .replace("{token}", api_token.as_str().unwrap())
            .replace("{job}", &job)
            .replace("{key}", key.as_str().unwrap())
            + query
    };
    let soon = (jiff::Timestamp::now() + jiff::SignedDuration::from_hours(2)).to_string();
    let mut sessions = Sessions::default();
    for (method, path, who, body, names) in table() {
        if matches!(who, Who::Stream | Who::CameBack) {
            continue;
        }
        let at = fill(path);
        let call = async |cookie: Option<&str>| fixture.call(method.clone(), &at, cookie, body.clone()).await;
        // What only this person or this workspace can say.
        let as_own = |email: &str| {
            let text = body.as_ref()?.to_string();
            let own = if path == "/api/workspace" { workspace.as_str()? } else { email };
            let text = text
                .replace("@own", own)
                .replace("@soon", &soon)
                .replace("@rep", person.as_str()?)
                .replace("@dialogue", &dialogue)
                .replace("@other", &other.to_string());
            serde_json::from_str::<Value>(&text).ok()
        };
        if matches!(who, Who::May(_)) {
            assert_eq!(call(None).await.status, StatusCode::UNAUTHORIZED, "{method} {path} without a session");
            assert_eq!(
                call(Some("lumbo=forged")).await.status,
                StatusCode::UNAUTHORIZED,
                "{method} {path} with a forged session"
            );
        }
        if names {
            for stranger in ["admin@b.example", "lead@b.example", "author@b.example", "rep@b.example"] {
                let session = sessions.of(&fixture, stranger).await;
                let answer = fixture.call(method.clone(), &at, Some(&session), as_own(stranger)).await;
                assert!(
                    matches!(answer.status, StatusCode::NOT_FOUND | StatusCode::FORBIDDEN),
                    "{method} {path} as {stranger}: {answer:?}"
                );
                assert!(!answer.text.contains("harrow"), "{method} {path} tells {stranger} something");
            }
        } else if method == Method::GET && !matches!(who, Who::Prospect | Who::Token) {
            let session = sessions.of(&fixture, "admin@b.example").await;
            let answer = call(Some(&session)).await;
            assert_eq!(answer.status, StatusCode::OK, "{method} {path}");
            assert!(
                !answer.text.contains("harrow") && !answer.text.contains(&fixture.dialogues[0].to_string()),
                "{method} {path} shows another workspace"
            );
        }
        if let Who::May(action) = who {
            // The password is changed on the way; signing out and changing workspaces ends a session.
            let fresh = path == "/api/sign-out" || path == "/api/workspace";
            let mut worked = false;
            for (name, role) in ROLES {
                let email = format!("{name}@a.example");
                let session = if fresh {
                    fixture.sign_in_with(&email, NEW_PASSWORD).await
                } else {
                    sessions.of(&fixture, &email).await
                };
                // What can be done once is done by the first who may.
                if role.may(action) && names && worked && method == Method::DELETE {
                    continue;
                }
                let answer = fixture.call(method.clone(), &at, Some(&session), as_own(&email)).await;
                if role.may(action) {
                    worked |= answer.status.is_success();
                    let fits = answer.status.is_success()
                        || WANTS_MORE.contains(&path) && answer.status != StatusCode::FORBIDDEN
                        || worked && matches!(answer.status, StatusCode::CONFLICT | StatusCode::NOT_FOUND);
                    assert!(fits, "{method} {path} as {email}: {answer:?}");
                } else {
                    assert_eq!(answer.status, StatusCode::FORBIDDEN, "{method} {path} as {email}");
                }
            }
        }
        match who {
            Who::Prospect => assert!(
                fixture.prospect(method.clone(), &at, None, body.clone()).await.status.is_success(),
                "{method} {path}"
            ),
            Who::Token => {
                for wrong in [None, Some("short"), Some("0".repeat(64).as_str())] {
                    let status = fixture.prospect(method.clone(), &at, wrong, body.clone()).await.status;
                    assert!(
                        matches!(status, StatusCode::UNAUTHORIZED | StatusCode::NOT_FOUND),
                        "{method} {path} with {wrong:?}: {status}"
                    );
                }
                let answer = fixture.prospect(method.clone(), &at, Some(&token), body.clone()).await;
                assert!(
                    answer.status.is_success() || answer.json["type"] == "urn:lumbo:problem:ended",
                    "{method} {path}: {answer:?}"
                );
            }
            _ => {}
        }
    }
}

#[tokio::test]
async fn a_rep_sees_own_and_queue_leads_only() {
    let fixture = Fixture::new().await;
    fixture.file_lead("storage-a", "harrow").await;
    let owner = fixture.sign_in("rep@a.example").await;
    let id = fixture.get("/api/leads?show=mine", &owner).await.json["leads"][0]["id"].as_str().unwrap().to_owned();
    // The other rep of the same workspace is in none of its queues.
    let other = fixture.sign_in("rep2@a.example").await;
    for show in ["mine", "queue", "all"] {
        assert_eq!(fixture.get(&format!("/api/leads?show={show}"), &other).await.json["leads"], json!([]), "{show}");
    }
    assert_eq!(fixture.get(&format!("/api/leads/{id}"), &other).await.status, StatusCode::NOT_FOUND);
    let outcome = json!({"revision": 1, "status": "won"});
    assert_eq!(
        fixture.post(&format!("/api/leads/{id}/outcome"), &other, outcome.clone()).await.status,
        StatusCode::NOT_FOUND
    );
    let lead = fixture.sign_in("lead@a.example").await;
    assert_eq!(fixture.get(&format!("/api/leads/{id}"), &lead).await.status, StatusCode::OK);
    let author = fixture.sign_in("author@a.example").await;
    assert_eq!(fixture.post(&format!("/api/leads/{id}/outcome"), &author, outcome).await.status, StatusCode::FORBIDDEN);
}
