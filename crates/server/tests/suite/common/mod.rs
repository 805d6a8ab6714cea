//! The real router over a real PostgreSQL: one database per test, with two workspaces that must never see each other.
#![allow(
    clippy::unwrap_used,
    clippy::expect_used,
    clippy::panic,
    dead_code,
    reason = "helpers of tests are tests; not every suite uses all of them"
)]

use std::net::SocketAddr;

use axum::Router;
use axum::body::Body;
use axum::extract::ConnectInfo;
use axum::http::{Method, Request, StatusCode, header};
use http_body_util::BodyExt;
use lumbo_server::{Config, router};
use lumbo_store::{NewPerson, NewQueue, Role, Store};
use serde_json::{Value, json};
use sqlx::{Connection, Executor, PgConnection};
use tokio::sync::oneshot;
use tower::ServiceExt;
use uuid::Uuid;

pub mod outside;
pub mod real;

pub const DEMO: &str = include_str!("../../../../../demo/storage-enquiry.json");
pub const PASSWORD: &str = "winter is long";

/// A fresh database.
pub async fn database() -> String {
    let server = std::env::var("LUMBO_TEST_DATABASE_SERVER")
        .expect("set LUMBO_TEST_DATABASE_SERVER to a PostgreSQL server, or run ./test, which does");
    let name = format!("test_{}", Uuid::new_v4().simple());
    let mut admin = PgConnection::connect(&format!("{server}/postgres")).await.unwrap();
    admin.execute(sqlx::AssertSqlSafe(format!("create database {name}"))).await.unwrap();
    format!("{server}/{name}")
}

/// Connects; on a machine that is busy with other tests the database may need another moment.
pub async fn connected(url: &str, connections: u32) -> Store {
    for _ in 0..40 {
        match Store::connect(url, connections).await {
            Err(lumbo_store::StoreError::Away(_)) => tokio::time::sleep(std::time::Duration::from_millis(250)).await,
            other => return other.unwrap(),
        }
    }
    panic!("the database did not answer");
}

/// An application with the workspaces `a` and `b`, each with an author, two reps, a sales lead, an administrator, the
/// demo's queues and the demo's dialogue on air.
pub struct Fixture {
    pub app: Router,
    pub store: Store,
    pub url: String,
    pub dialogues: [Uuid; 2],
}

/// A fixture whose workers run, as `lumbo serve` runs them, until it is dropped; with an administrator's session.
pub struct Working {
    pub fixture: Fixture,
    pub admin: String,
    stop: Option<oneshot::Sender<()>>,
}

impl Working {
    pub async fn with(config: Config) -> Self {
        let config = Config {
            sign_ins_per_minute: 10_000,
            prospect_requests_per_minute: 100_000,
            starts_per_hour: 100_000,
            filings_per_hour: 100_000,
            secret_key: Some([7; 32]),
            site: "https://lumbo.example".into(),
            ..config
        };
        let fixture = Fixture::with(&config).await;
        let (stop, stopped) = oneshot::channel();
        let listener = tokio::net::TcpListener::bind("127.0.0.1:0").await.unwrap();
        let store = fixture.store.clone();
        tokio::spawn(async move {
            lumbo_server::serve(listener, store, &config, async move { drop(stopped.await) }).await;
        });
        let admin = fixture.sign_in("admin@a.example").await;
        Self { fixture, admin, stop: Some(stop) }
    }
}

impl Drop for Working {
    fn drop(&mut self) {
        if let Some(stop) = self.stop.take() {
            let _ = stop.send(());
        }
    }
}

/// An answer: its status, its JSON (or text), its session cookie where it set one.
#[derive(Debug)]
pub struct Answer {
    pub status: StatusCode,
    pub json: Value,
    pub text: String,
    pub cookie: Option<String>,
    pub headers: axum::http::HeaderMap,
}

impl Fixture {
    pub async fn new() -> Self {
        Self::with(&Config {
            sign_ins_per_minute: 10_000,
            prospect_requests_per_minute: 100_000,
            starts_per_hour: 100_000,
            filings_per_hour: 100_000,
            ..Config::default()
        })
        .await
    }

    pub async fn with(config: &Config) -> Self {
        let config = &Config { secret_key: config.secret_key.or(Some([7; 32])), ..config.clone() };
        let url = database().await;
        let store = connected(&url, 8).await;
        let hash = lumbo_server::hash_password(PASSWORD).unwrap();
        let mut dialogues = Vec::new();
        for slug in ["a", "b"] {
            let emails: Vec<(String, Role)> = [
                ("author", Role::Author),
                ("rep", Role::Rep),
                ("rep2", Role::Rep),
                ("lead", Role::RepLead),
                ("admin", Role::Administrator),
                ("viewer", Role::Viewer),
            ]
            .into_iter()
            .map(|(name, role)| (format!("{name}@{slug}.example"), role))
            .collect();
            let people: Vec<NewPerson<'_>> = emails
                .iter()
                .map(|(email, role)| NewPerson { email, name: email, role: *role, password_hash: &hash })
                .collect();
            let rep = format!("rep@{slug}.example");
            let members = [(rep.as_str(), 1)];
            let queues = ["aldermoor", "saltwick", "senior"].map(|key| NewQueue {
                key,
                name: key,
                members: &members,
                fixed_owner: None,
            });
            let workspace = store.create_workspace(slug, slug, &people, &queues).await.unwrap();
            let mut dialogue = lumbo_dialogue::file::load(DEMO).unwrap();
            dialogue.id = format!("storage-{slug}");
            let id = store.create_dialogue(workspace, None, &dialogue).await.unwrap();
            store.release(workspace, id, None, 1, "first").await.unwrap();
            dialogues.push(id);
        }
        Self { app: router(store.clone(), config), store, url, dialogues: [dialogues[0], dialogues[1]] }
    }

    /// The database itself.
    pub async fn connect(&self) -> PgConnection {
        PgConnection::connect(&self.url).await.unwrap()
    }

    pub async fn send(&self, request: Request<Body>) -> Answer {
        let response = self.app.clone().oneshot(request).await.unwrap();
        let status = response.status();
        let headers = response.headers().clone();
        let cookie = headers
            .get(header::SET_COOKIE)
            .and_then(|value| value.to_str().ok())
            .and_then(|value| value.split(';').next())
            .map(str::to_owned);
        let bytes = response.into_body().collect().await.unwrap().to_bytes();
        let text = String::from_utf8_lossy(&bytes).into_owned();
        Answer { status, json: serde_json::from_str(&text).unwrap_or(Value::Null), text, cookie, headers }
    }

    /// A request as our own pages make it: same origin, perhaps with a session.
    pub fn request(method: &Method, path: &str, cookie: Option<&str>, body: Option<&Value>) -> Request<Body> {
        let mut request = Request::builder()
            .method(method)
            .uri(path)
            .header(header::HOST, "lumbo.example")
            .header(header::ORIGIN, "https://lumbo.example");
        if let Some(cookie) = cookie {
            request = request.header(header::COOKIE, cookie);
        }
        let body = body.map_or_else(Body::empty, |body| Body::from(body.to_string()));
        let mut request = request.header(header::CONTENT_TYPE, "application/json").body(body).unwrap();
        request.extensions_mut().insert(ConnectInfo(SocketAddr::from(([127, 0, 0, 1], 4000))));
        request
    }

    pub async fn call(&self, method: Method, path: &str, cookie: Option<&str>, body: Option<Value>) -> Answer {
        self.send(Self::request(&method, path, cookie, body.as_ref())).await
    }

    pub async fn get(&self, path: &str, cookie: &str) -> Answer {
        self.call(Method::GET, path, Some(cookie), None).await
    }

    pub async fn post(&self, path: &str, cookie: &str, body: Value) -> Answer {
        self.call(Method::POST, path, Some(cookie), Some(body)).await
    }

    /// Signs somebody in and gives the session's cookie.
    pub async fn sign_in(&self, email: &str) -> String {
        self.sign_in_with(email, PASSWORD).await
    }

    /// The same with a password of one's own.
    pub async fn sign_in_with(&self, email: &str, password: &str) -> String {
        let answer =
            self.call(Method::POST, "/api/sign-in", None, Some(json!({"email": email, "password": password}))).await;
        assert_eq!(answer.status, StatusCode::OK, "{answer:?}");
        answer.cookie.unwrap()
    }

    /// A request of a prospect.
    pub async fn prospect(&self, method: Method, path: &str, token: Option<&str>, body: Option<Value>) -> Answer {
        let mut request = Self::request(&method, path, None, body.as_ref());
        if let Some(token) = token {
            request.headers_mut().insert(header::AUTHORIZATION, format!("Bearer {token}").parse().unwrap());
        }
        self.send(request).await
    }

    pub async fn begin(&self, slug: &str) -> String {
        let started = self
            .prospect(Method::POST, &format!("/api/p/{slug}/conversations"), None, Some(json!({"id": "start"})))
            .await;
        assert_eq!(started.status, StatusCode::OK, "{started:?}");
        started.json["token"].as_str().unwrap().to_owned()
    }

    /// One typed answer.
    pub async fn say(&self, token: &str, sequence: usize, text: &str) -> Answer {
        let body = json!({"id": format!("i{sequence}"), "expects": sequence, "body": {"kind": "reply", "text": text}});
        self.prospect(Method::POST, "/api/conversation/inputs", Some(token), Some(body)).await
    }

    /// A whole conversation that files a hot lead; gives its token.
    pub async fn file_lead(&self, slug: &str, company: &str) -> String {
        let token = self.begin(slug).await;
        let email = format!("pia@{company}.example");
        for (index, text) in
            ["storage", "frozen", "no", "340", "owner", "Pia Lindqvist", company, &email, "020 7946 0014"]
                .iter()
                .enumerate()
        {
            let answer = self.say(&token, index + 1, text).await;
            assert_eq!(answer.status, StatusCode::OK, "{text}: {answer:?}");
        }
        token
    }
}

/// A draft with what is computed of it, as one object.
pub async fn whole_draft(fixture: &Fixture, session: &str, dialogue: &str) -> Value {
    let mut draft = fixture.get(&format!("/api/dialogues/{dialogue}/draft"), session).await.json;
    let analysis = fixture.get(&format!("/api/dialogues/{dialogue}/draft/analysis"), session).await;
    assert_eq!(analysis.status, StatusCode::OK, "{analysis:?}");
    assert_eq!(analysis.json["revision"], draft["revision"]);
    for (key, value) in analysis.json.as_object().unwrap() {
        draft[key] = value.clone();
    }
    draft
}
