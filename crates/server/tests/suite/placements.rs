//! Placements: what pages of other origins get, who may show the frame, and what is counted.
#![allow(clippy::unwrap_used, clippy::panic, reason = "helpers of tests are tests")]

use crate::common::{Answer, Fixture};
use axum::http::{Method, StatusCode, header};
use serde_json::{Value, json};

struct Placed {
    fixture: Fixture,
    author: String,
    key: String,
}

impl Placed {
    async fn new() -> Self {
        let fixture = Fixture::new().await;
        let author = fixture.sign_in("author@a.example").await;
        let line = fixture.get("/api/placements", &author).await.json["line"].as_str().unwrap().to_owned();
        let key = line.split("/e/").nth(1).unwrap().split(".js").next().unwrap().to_owned();
        Self { fixture, author, key }
    }

    /// A released placement of the first workspace's dialogue.
    async fn add(&self, settings: Value) -> String {
        let path = format!("/api/dialogues/{}/placements", self.fixture.dialogues[0]);
        let made = self.fixture.post(&path, &self.author, json!({"name": "One", "form": "corner"})).await;
        let id = made.json["id"].as_str().unwrap().to_owned();
        let mut draft = made.json["draft"].clone();
        draft.as_object_mut().unwrap().extend(settings.as_object().unwrap().clone());
        let path = format!("/api/placements/{id}");
        let changed = self.fixture.post(&path, &self.author, json!({"revision": 1, "draft": draft})).await;
        assert_eq!(changed.status, StatusCode::OK, "{changed:?}");
        let released = self.fixture.post(&format!("{path}/releases"), &self.author, json!({"revision": 2})).await;
        assert_eq!(released.status, StatusCode::OK, "{released:?}");
        id
    }

    /// What a page of an origin gets.
    async fn visit(&self, origin: &str, said: &Value) -> Answer {
        let mut request = Fixture::request(&Method::POST, &format!("/e/{}/visit", self.key), None, Some(said));
        request.headers_mut().insert(header::ORIGIN, origin.parse().unwrap());
        request.headers_mut().insert(header::CONTENT_TYPE, "text/plain;charset=UTF-8".parse().unwrap());
        self.fixture.send(request).await
    }
}

fn sites() -> Value {
    json!({"sites": ["winterlode.example"], "include": ["/prices/**"]})
}

#[tokio::test]
async fn a_page_of_an_allowed_site_gets_what_fits_and_others_get_nothing() {
    let placed = Placed::new().await;
    let id = placed
        .add(json!({"where": sites(), "look": {"name": "W", "colour": "#1f5e8c", "line": {"en": "Hello"}}}))
        .await;
    let page = json!({"path": "/prices/frozen"});
    let answer = placed.visit("https://winterlode.example", &page).await;
    assert_eq!(answer.status, StatusCode::OK, "{answer:?}");
    assert_eq!(answer.headers[header::ACCESS_CONTROL_ALLOW_ORIGIN], "https://winterlode.example");
    assert_eq!(answer.headers[header::VARY], "origin");
    let shown = &answer.json[0];
    assert_eq!((&shown["id"], &shown["slot"], &shown["line"]), (&json!(id), &json!("floating"), &json!("Hello")));
    assert_eq!((&shown["colour"], &shown["on_colour"]), (&json!("#1f5e8c"), &json!("#ffffff")));
    assert_eq!(placed.visit("https://winterlode.example", &json!({"path": "/jobs"})).await.json, json!([]));
    for origin in [
        "https://evil.example",
        "https://winterlode.example.evil.example",
        "http://winterlode.example",
        "https://winterlode.example@evil.example",
        "null",
        "ftp://winterlode.example",
    ] {
        let answer = placed.visit(origin, &page).await;
        assert_eq!((answer.status, answer.text.as_str()), (StatusCode::NO_CONTENT, ""), "{origin}");
        assert!(!answer.headers.contains_key(header::ACCESS_CONTROL_ALLOW_ORIGIN), "{origin}");
    }
}

#[tokio::test]
async fn what_cannot_be_read_gets_nothing_and_breaks_nothing() {
    let placed = Placed::new().await;
    placed.add(json!({"where": sites()})).await;
    for said in [
        json!({}),
        json!({"path": 1}),
        json!({"path": "prices"}),
        json!({"path": "https://evil.example/"}),
        json!({"path": "/prices", "host": "evil.example"}),
        json!({"path": format!("/prices/{}", "x".repeat(9_000))}),
        json!({"path": "/prices", "device": "watch"}),
        json!([]),
    ] {
        let answer = placed.visit("https://winterlode.example", &said).await;
        assert_eq!(answer.status, StatusCode::NO_CONTENT, "{said}");
    }
    // A path that tries to be another host stays a path of its own site.
    let answer = placed.visit("https://winterlode.example", &json!({"path": "//evil.example/prices"})).await;
    assert_eq!(answer.json, json!([]));
    let missing = Fixture::request(&Method::GET, "/e/nothing.js", None, None);
    assert_eq!(placed.fixture.send(missing).await.status, StatusCode::NOT_FOUND);
}

#[tokio::test]
async fn off_air_it_is_gone_everywhere() {
    let placed = Placed::new().await;
    let id = placed.add(json!({"where": sites()})).await;
    let get = |path: String| {
        let fixture = &placed.fixture;
        async move { fixture.prospect(Method::GET, &path, None, None).await }
    };
    assert_eq!(get(format!("/api/at/{id}")).await.status, StatusCode::OK);
    let act = format!("/api/placements/{id}/act");
    let off = placed.fixture.post(&act, &placed.author, json!({"act": "off_air"})).await;
    assert_eq!(off.status, StatusCode::NO_CONTENT);
    assert_eq!(get(format!("/api/at/{id}")).await.status, StatusCode::NOT_FOUND);
    let frame = get(format!("/f/{id}")).await;
    assert!(frame.headers[header::CONTENT_SECURITY_POLICY].to_str().unwrap().contains("frame-ancestors 'none'"));
    // What is on air is known for two seconds.
    tokio::time::sleep(std::time::Duration::from_millis(2_100)).await;
    let page = json!({"path": "/prices"});
    assert_eq!(placed.visit("https://winterlode.example", &page).await.status, StatusCode::NO_CONTENT);
    // Taken out and put back, it is there and off air.
    for (deed, there) in [("take_out", false), ("put_back", true)] {
        placed.fixture.post(&act, &placed.author, json!({"act": deed})).await;
        let list = placed.fixture.get("/api/placements", &placed.author).await.json;
        assert_eq!(list["placements"].as_array().unwrap().len(), usize::from(there), "{deed}");
    }
}

#[tokio::test]
async fn a_page_of_its_own_has_its_days_too() {
    let placed = Placed::new().await;
    for (when, there) in [
        (json!({}), true),
        (json!({"until": "2020-01-01"}), false),
        (json!({"from": "2999-01-01"}), false),
        (json!({"from": "2020-01-01", "until": "2999-01-01"}), true),
    ] {
        let id = placed.add(json!({"form": "page", "when": when})).await;
        let status = placed.fixture.prospect(Method::GET, &format!("/api/at/{id}"), None, None).await.status;
        assert_eq!(status, if there { StatusCode::OK } else { StatusCode::NOT_FOUND }, "{when}");
    }
}

#[tokio::test]
async fn the_frame_is_for_its_sites_and_the_page_for_nobody_else() {
    let placed = Placed::new().await;
    let two = json!({"sites": ["winterlode.example", "127.0.0.1:8091"]});
    let id = placed.add(json!({"where": two})).await;
    let frame = placed.fixture.prospect(Method::GET, &format!("/f/{id}"), None, None).await;
    let policy = frame.headers[header::CONTENT_SECURITY_POLICY].to_str().unwrap().to_owned();
    let ancestors = "frame-ancestors https://winterlode.example:* https://127.0.0.1:8091 http://127.0.0.1:8091";
    assert!(policy.ends_with(ancestors), "{policy}");
    let look = json!({"title": "Cold <storage> & \"more\"", "description": "It's priced", "name": "</script>W"});
    let page = placed.add(json!({"form": "page", "look": look})).await;
    let shown = placed.fixture.prospect(Method::GET, &format!("/at/{page}"), None, None).await;
    assert!(shown.headers[header::CONTENT_SECURITY_POLICY].to_str().unwrap().ends_with("frame-ancestors 'none'"));
    if shown.status == StatusCode::OK {
        assert!(shown.text.contains("<title>Cold &lt;storage&gt; &amp; &quot;more&quot;</title>"), "{}", shown.text);
        assert!(shown.text.contains("og:description\" content=\"It&#39;s priced\""));
        let first = shown.text.split("id=\"first\">").nth(1).unwrap().split("</script>").next().unwrap();
        let first: Value = serde_json::from_str(first).unwrap();
        assert_eq!((&first["slug"], &first["look"]["name"]), (&json!("storage-a"), &json!("</script>W")));
    } else {
        // Without built pages there is nothing to put a head on.
        assert_eq!(shown.status, StatusCode::SERVICE_UNAVAILABLE);
    }
}

#[tokio::test]
async fn what_was_shown_opened_started_and_filed_is_counted_and_the_lead_says_where_it_came_from() {
    let placed = Placed::new().await;
    let id = placed.add(json!({"where": sites(), "name": "Prices pages"})).await;
    let page = json!({"path": "/prices/frozen", "visitor": "v1"});
    for _ in 0..3 {
        placed.visit("https://winterlode.example", &page).await;
    }
    let opened = format!("/api/at/{id}/opened");
    placed.fixture.prospect(Method::POST, &opened, None, None).await;
    let context = json!({"page": "/prices/frozen", "first_page": "/", "first_referrer": "https://search.example/",
        "campaign": "autumn-26", "carried": {"gclid": "c1"}});
    let start = json!({"id": "start", "placement": id, "context": context});
    let path = "/api/p/storage-a/conversations";
    let begun = placed.fixture.prospect(Method::POST, path, None, Some(start)).await;
    let token = begun.json["token"].as_str().unwrap().to_owned();
    let replies =
        ["storage", "frozen", "no", "340", "owner", "Pia Harrow", "Harrow", "pia@harrow.example", "020 7946 0014"];
    let mut filed = Vec::new();
    for (at, text) in replies.iter().enumerate() {
        let said = placed.fixture.say(&token, at + 1, text).await;
        filed.push(said.json["filed"] == json!(true));
    }
    assert!(!filed[0] && filed.iter().any(|filed| *filed), "the page learns that it was passed on: {filed:?}");
    let list = placed.fixture.get("/api/placements", &placed.author).await.json;
    let row = &list["placements"][0];
    assert_eq!(
        (&row["shown"], &row["opened"], &row["started"], &row["filed"]),
        (&json!(3), &json!(1), &json!(1), &json!(1))
    );
    assert_eq!(list["pages"][0]["page"], "winterlode.example/prices/frozen");
    let lead = placed.fixture.sign_in("lead@a.example").await;
    let leads = placed.fixture.get("/api/leads?show=all", &lead).await.json;
    let lead = placed.fixture.get(&format!("/api/leads/{}", leads["leads"][0]["id"].as_str().unwrap()), &lead).await;
    let came = &lead.json["came"];
    assert_eq!((&came["placement"], &came["page"]), (&json!("Prices pages"), &json!("/prices/frozen")));
    assert_eq!((&came["first_page"], &came["campaign"]), (&json!("/"), &json!("autumn-26")));
    assert_eq!(came["carried"], json!({"gclid": "c1"}));
}

#[tokio::test]
async fn a_placement_of_another_dialogue_counts_for_nobody() {
    let placed = Placed::new().await;
    let id = placed.add(json!({"where": sites()})).await;
    let start = json!({"id": "start", "placement": id});
    // The other workspace's dialogue is started with this one's placement.
    let begun = placed.fixture.prospect(Method::POST, "/api/p/storage-b/conversations", None, Some(start)).await;
    assert_eq!(begun.status, StatusCode::OK);
    let list = placed.fixture.get("/api/placements", &placed.author).await.json;
    assert_eq!(list["placements"][0]["started"], json!(0));
}

#[tokio::test]
async fn only_parameters_that_rules_name_are_asked_for_and_used() {
    let placed = Placed::new().await;
    let plan = json!({"sites": ["winterlode.example"], "parameters": [{"name": "plan", "is": "c*"}],
        "exclude_parameters": [{"name": "a\"`${'</script>"}]});
    placed.add(json!({"where": plan})).await;
    let origin = "https://winterlode.example";
    let with = |query: Value| json!({"path": "/", "query": query});
    assert_eq!(
        placed.visit(origin, &with(json!({"plan": "cold", "secret": "x"}))).await.json.as_array().unwrap().len(),
        1
    );
    assert_eq!(placed.visit(origin, &with(json!({"plan": "dry"}))).await.json, json!([]));
    let script = Fixture::request(&Method::GET, &format!("/e/{}.js", placed.key), None, None);
    let script = placed.fixture.send(script).await;
    if script.status == StatusCode::OK {
        assert_eq!(script.headers[header::ACCESS_CONTROL_ALLOW_ORIGIN], "*");
        assert!(
            !script.text.contains("%named%") && script.text.contains("utm_campaign") && script.text.contains("plan")
        );
        assert!(!script.text.contains("${'") && !script.text.contains("</script>"), "a name stays within its string");
    } else {
        assert_eq!(script.status, StatusCode::SERVICE_UNAVAILABLE);
    }
}

#[tokio::test]
async fn an_address_is_tried_on_what_is_written_and_a_draft_with_faults_is_not_released() {
    let placed = Placed::new().await;
    let path = format!("/api/dialogues/{}/placements", placed.fixture.dialogues[0]);
    let post = |path: String, body: Value| {
        let (fixture, author) = (&placed.fixture, &placed.author);
        async move { fixture.post(&path, author, body).await }
    };
    let made = post(path, json!({"name": "Prices pages", "form": "corner"})).await.json;
    let id = made["id"].as_str().unwrap().to_owned();
    assert_eq!(made["faults"][0]["at"], "where.sites");
    let refused = post(format!("/api/placements/{id}/releases"), json!({"revision": 1})).await;
    assert_eq!(refused.status, StatusCode::UNPROCESSABLE_ENTITY);
    assert!(refused.json["detail"].as_str().unwrap().starts_with("Name the site"), "{refused:?}");
    let tried =
        post("/api/placements/try".into(), json!({"url": "winterlode.example/prices", "device": "phone"})).await;
    let reason = &tried.json["slots"][0]["reasons"][0];
    assert_eq!((&reason["fits"], &reason["why"]), (&json!(true), &json!("it shows on every page")));
    let wrong = post("/api/placements/try".into(), json!({"url": "no page"})).await;
    assert_eq!(wrong.status, StatusCode::UNPROCESSABLE_ENTITY);
    assert!(wrong.json["detail"].as_str().unwrap().contains("not the address of a page"));
    let stale = post(format!("/api/placements/{id}"), json!({"revision": 9, "draft": made["draft"]})).await;
    assert_eq!(stale.status, StatusCode::CONFLICT);
}

/// Read back by rqrr 0.11, a reader that has nothing to do with the writer.
#[tokio::test]
async fn the_qr_code_says_the_link() {
    let placed = Placed::new().await;
    let id = placed.add(json!({"form": "page"})).await;
    let drawn = placed.fixture.get(&format!("/api/placements/{id}/qr"), &placed.author).await;
    assert_eq!(drawn.headers[header::CONTENT_TYPE], "image/svg+xml");
    let (side, dark) = modules(&drawn.text);
    let mut image = rqrr::PreparedImage::prepare_from_greyscale(side, side, |x, y| if dark(x, y) { 0 } else { 255 });
    let grids = image.detect_grids();
    assert_eq!(grids.len(), 1, "one code");
    let (_, text) = grids[0].decode().unwrap();
    let list = placed.fixture.get("/api/placements", &placed.author).await.json;
    assert_eq!(text, list["placements"][0]["link"].as_str().unwrap());
}

/// The drawing's dark rectangles, as its path says them: "M x y h w v h H x V y".
fn modules(svg: &str) -> (usize, impl Fn(usize, usize) -> bool) {
    let number = |text: &str| text.parse::<usize>().unwrap();
    let side = number(svg.split("width=\"").nth(1).unwrap().split('"').next().unwrap());
    let path = svg.split("d=\"").nth(1).unwrap().split('"').next().unwrap();
    let boxes: Vec<[usize; 4]> = path
        .split('M')
        .filter(|part| !part.is_empty())
        .map(|part| {
            let parts: Vec<usize> =
                part.split(|sign: char| !sign.is_ascii_digit()).filter(|text| !text.is_empty()).map(number).collect();
            [parts[0], parts[1], parts[2], parts[3]]
        })
        .collect();
    (side, move |x, y| {
        boxes.iter().any(|[left, top, wide, high]| x >= *left && x < left + wide && y >= *top && y < top + high)
    })
}
