//! Signing in through a provider, with the stand-in that ships with Lumbo at the other end.
#![allow(clippy::unwrap_used, clippy::panic, reason = "helpers of tests are tests")]

use crate::common::outside::{form_post, get, standins};
use crate::common::{Answer, Fixture, PASSWORD};
use axum::http::{Method, StatusCode};
use lumbo_server::{Config, Provider};
use lumbo_standins::provider::CLIENT;
use serde_json::json;

/// A fixture that knows the stand-in provider.
struct Known {
    fixture: Fixture,
    standins: String,
}

/// A value of an address's query.
fn query(address: &str, name: &str) -> String {
    let found = address.split(['?', '&']).find_map(|pair| pair.strip_prefix(name)?.strip_prefix('='));
    found.unwrap_or_default().to_owned()
}

impl Known {
    async fn new() -> Self {
        let (standins, host) = standins().await;
        let provider = Provider {
            name: "Winterlode ID".into(),
            issuer: format!("{standins}/id"),
            client_id: CLIENT.0.into(),
            client_secret: CLIENT.1.into(),
        };
        let config = Config {
            provider: Some(provider),
            allowed_private: vec![host],
            sign_ins_per_minute: 1_000,
            site: "http://lumbo.example".into(),
            ..Config::default()
        };
        Self { fixture: Fixture::with(&config).await, standins }
    }

    /// Begins; gives the provider's address and the cookie that goes along.
    async fn begin(&self, session: Option<&str>) -> (String, String) {
        let begun = match session {
            None => {
                self.fixture.call(Method::POST, "/api/sign-in/provider", None, Some(json!({"then": "/leads"}))).await
            }
            Some(session) => self.fixture.post("/api/profile/provider", session, json!({"password": PASSWORD})).await,
        };
        assert_eq!(begun.status, StatusCode::OK, "{begun:?}");
        (begun.json["address"].as_str().unwrap().to_owned(), begun.cookie.unwrap())
    }

    /// What somebody does at the provider; gives where it sends them.
    async fn chooses(&self, address: &str, subject: &str) -> String {
        assert!(get(address).await.contains("Who are you?"), "its page opens");
        let asked = address.split_once('?').unwrap().1;
        let chosen = format!("{asked}&subject={subject}");
        let (head, _) = form_post(&format!("{}/id/choose", self.standins), &chosen).await;
        let location = head.lines().find_map(|line| line.strip_prefix("location: ")).unwrap().to_owned();
        location.strip_prefix("http://lumbo.example").unwrap().to_owned()
    }

    /// The whole way; gives what came of it.
    async fn way(&self, session: Option<&str>, subject: &str) -> Answer {
        let (address, cookie) = self.begin(session).await;
        let back = self.chooses(&address, subject).await;
        self.fixture.call(Method::GET, &back, Some(&cookie), None).await
    }

    async fn wrong(&self, what: &str) {
        form_post(&format!("{}/id/wrong", self.standins), &format!("wrong={what}")).await;
    }
}

fn location(answer: &Answer) -> &str {
    assert_eq!(answer.status, StatusCode::SEE_OTHER, "{answer:?}");
    answer.headers["location"].to_str().unwrap()
}

/// The session that an answer began.
fn session(answer: &Answer) -> Option<String> {
    let cookies = answer.headers.get_all("set-cookie").iter().filter_map(|value| value.to_str().ok());
    cookies.filter_map(|value| value.split(';').next()).find(|value| value.starts_with("lumbo=")).map(str::to_owned)
}

#[tokio::test]
async fn one_links_once_and_then_signs_in_through_the_provider() {
    let known = Known::new().await;
    let fixture = &known.fixture;
    assert_eq!(fixture.call(Method::GET, "/api/sign-in/provider", None, None).await.json["name"], "Winterlode ID");
    let before = known.way(None, "w-1002").await;
    assert_eq!((location(&before), session(&before)), ("/sign-in?why=not-linked", None));

    let author = fixture.sign_in("author@a.example").await;
    assert_eq!(
        fixture.get("/api/profile/provider", &author).await.json,
        json!({"name": "Winterlode ID", "since": null})
    );
    let wrong = fixture.post("/api/profile/provider", &author, json!({"password": "not mine at all"})).await;
    assert_eq!(wrong.status, StatusCode::UNPROCESSABLE_ENTITY, "{wrong:?}");
    let linked = known.way(Some(&author), "w-1002").await;
    assert_eq!((location(&linked), session(&linked)), ("/settings/account", None), "linking signs nobody in");
    assert!(fixture.get("/api/profile/provider", &author).await.json["since"].is_string());

    let came = known.way(None, "w-1002").await;
    assert_eq!(location(&came), "/leads", "where they wanted to go");
    let me = fixture.get("/api/me", &session(&came).unwrap()).await;
    assert_eq!(me.json["email"], "author@a.example");
    // A change of address there or here makes no difference: issuer and subject say who it is.
    let stranger = known.way(None, "w-1009").await;
    assert_eq!(location(&stranger), "/sign-in?why=not-linked");

    let rep = fixture.sign_in("rep@a.example").await;
    let taken = known.way(Some(&rep), "w-1002").await;
    assert_eq!(location(&taken), "/settings/account?why=linked-elsewhere");
    let off = fixture.post("/api/profile/provider/off", &author, json!({"password": PASSWORD})).await;
    assert_eq!(off.status, StatusCode::NO_CONTENT);
    assert_eq!(location(&known.way(None, "w-1002").await), "/sign-in?why=not-linked");
    let admin = fixture.sign_in("admin@a.example").await;
    let audit = fixture.get("/api/audit?what=provider_linked", &admin).await.json;
    let about: Vec<&str> =
        audit["entries"].as_array().unwrap().iter().map(|entry| entry["about"].as_str().unwrap()).collect();
    assert_eq!(about, ["taken back", "linked"]);
}

#[tokio::test]
async fn a_token_that_does_not_hold_lets_nobody_in() {
    let known = Known::new().await;
    let author = known.fixture.sign_in("author@a.example").await;
    known.way(Some(&author), "w-1002").await;
    for what in ["signature", "audience", "issuer", "expired", "nonce"] {
        known.wrong(what).await;
        let came = known.way(None, "w-1002").await;
        assert_eq!((location(&came), session(&came)), ("/sign-in?why=not-proved", None), "{what}");
    }
    let came = known.way(None, "w-1002").await;
    assert!(session(&came).is_some(), "and then one that does");
}

#[tokio::test]
async fn what_comes_back_must_belong_to_this_browser_and_counts_once() {
    let known = Known::new().await;
    let fixture = &known.fixture;
    let author = fixture.sign_in("author@a.example").await;
    known.way(Some(&author), "w-1002").await;
    let (address, cookie) = known.begin(None).await;
    let back = known.chooses(&address, "w-1002").await;
    // Sent to somebody else's browser, it signs nobody in there.
    let (_, other) = known.begin(None).await;
    for wrong in [None, Some("lumbo_way=forged"), Some(other.as_str())] {
        let answer = fixture.call(Method::GET, &back, wrong, None).await;
        assert_eq!((location(&answer), session(&answer)), ("/sign-in?why=another-way", None), "{wrong:?}");
    }
    let state = query(&address, "state");
    let changed = back.replace(&state, "another");
    let answer = fixture.call(Method::GET, &changed, Some(&cookie), None).await;
    assert_eq!(location(&answer), "/sign-in?why=another-way");
    let answer = fixture.call(Method::GET, &back, Some(&cookie), None).await;
    assert!(session(&answer).is_some());
    let set: Vec<_> = answer.headers.get_all("set-cookie").iter().map(|value| value.to_str().unwrap()).collect();
    assert!(set.iter().any(|value| value.starts_with("lumbo_way=;") && value.contains("Max-Age=0")), "{set:?}");
    let replayed = fixture.call(Method::GET, &back, Some(&cookie), None).await;
    assert_eq!((location(&replayed), session(&replayed)), ("/sign-in?why=not-proved", None), "the code was used up");
    // They said no there.
    let (_, cookie) = known.begin(None).await;
    let state = {
        let (address, again) = known.begin(None).await;
        let back = known.chooses(&address, "nobody").await;
        assert_eq!(query(&back, "error"), "access_denied");
        let answer = fixture.call(Method::GET, &back, Some(&again), None).await;
        assert_eq!(location(&answer), "/sign-in?why=refused-there");
        query(&address, "state")
    };
    let swapped = format!("/api/sign-in/provider/back?state={state}&code=x");
    let answer = fixture.call(Method::GET, &swapped, Some(&cookie), None).await;
    assert_eq!(location(&answer), "/sign-in?why=another-way");
}

#[tokio::test]
async fn what_goes_along_is_for_ten_minutes_and_leads_nowhere_else() {
    let known = Known::new().await;
    let begun =
        known.fixture.call(Method::POST, "/api/sign-in/provider", None, Some(json!({"then": "//evil.example"})));
    let begun = begun.await;
    let cookie = begun.headers["set-cookie"].to_str().unwrap().to_owned();
    for part in ["; HttpOnly", "; SameSite=Lax", "; Max-Age=600", "; Path=/api/sign-in/provider/back"] {
        assert!(cookie.contains(part), "{cookie}");
    }
    let address = begun.json["address"].as_str().unwrap();
    assert!(address.contains("code_challenge_method=S256") && !query(address, "nonce").is_empty(), "{address}");
    let author = known.fixture.sign_in("author@a.example").await;
    known.way(Some(&author), "w-1002").await;
    let back = known.chooses(address, "w-1002").await;
    let came = known.fixture.call(Method::GET, &back, cookie.split(';').next(), None).await;
    assert_eq!(location(&came), "/", "only a path of our own is gone to");
}

#[tokio::test]
async fn without_a_provider_nothing_is_offered() {
    let fixture = Fixture::new().await;
    assert!(fixture.call(Method::GET, "/api/sign-in/provider", None, None).await.json["name"].is_null());
    let begun = fixture.call(Method::POST, "/api/sign-in/provider", None, Some(json!({"then": "/"}))).await;
    assert_eq!(begun.status, StatusCode::NOT_FOUND);
}

#[tokio::test]
async fn a_provider_that_does_not_answer_is_said_so() {
    let provider = Provider {
        name: "Winterlode ID".into(),
        issuer: "http://127.0.0.1:9/id".into(),
        client_id: "lumbo".into(),
        client_secret: "s".into(),
    };
    let config = Config { provider: Some(provider), allowed_private: vec!["127.0.0.1:9".into()], ..Config::default() };
    let fixture = Fixture::with(&config).await;
    let begun = fixture.call(Method::POST, "/api/sign-in/provider", None, Some(json!({"then": "/"}))).await;
    assert_eq!(begun.status, StatusCode::BAD_GATEWAY);
    assert_eq!(
        begun.json["detail"],
        "Winterlode ID does not answer. Try again in a minute, or sign in with your password."
    );
}
