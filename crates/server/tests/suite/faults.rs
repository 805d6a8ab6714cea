//! Faults are said and survived: a database that does not answer, heads and bodies that never end, too many sockets.
#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic, reason = "helpers of tests are tests")]

use std::sync::Arc;
use std::sync::atomic::{AtomicBool, Ordering};

use crate::common::real::{PATIENCE, Real};
use crate::common::{Fixture, database};
use lumbo_server::{Config, Sockets};
use lumbo_store::{Store, StoreError};
use tokio::io::{AsyncReadExt, AsyncWriteExt, copy_bidirectional};
use tokio::net::{TcpListener, TcpStream};
use tokio::sync::Notify;

/// A way to the database that can be cut and mended.
struct Way {
    url: String,
    open: Arc<AtomicBool>,
    cut: Arc<Notify>,
}

impl Way {
    async fn to(url: &str) -> Self {
        let listener = TcpListener::bind("127.0.0.1:0").await.unwrap();
        let (rest, name) = url.rsplit_once('/').unwrap();
        let (who, behind) = rest.rsplit_once('@').unwrap();
        let own = format!("{who}@{}/{name}", listener.local_addr().unwrap());
        let behind = behind.to_owned();
        let (open, cut) = (Arc::new(AtomicBool::new(true)), Arc::new(Notify::new()));
        let (is_open, is_cut) = (Arc::clone(&open), Arc::clone(&cut));
        tokio::spawn(async move {
            while let Ok((mut near, _)) = listener.accept().await {
                if !is_open.load(Ordering::SeqCst) {
                    continue;
                }
                let (behind, is_cut) = (behind.clone(), Arc::clone(&is_cut));
                tokio::spawn(async move {
                    let mut far = TcpStream::connect(behind).await.unwrap();
                    tokio::select! {
                        _ = copy_bidirectional(&mut near, &mut far) => {}
                        () = is_cut.notified() => {}
                    }
                });
            }
        });
        Self { url: own, open, cut }
    }

    fn cut(&self) {
        self.open.store(false, Ordering::SeqCst);
        self.cut.notify_waiters();
    }

    fn mend(&self) {
        self.open.store(true, Ordering::SeqCst);
    }
}

#[tokio::test]
async fn a_database_that_does_not_answer_is_said_and_survived() {
    let fixture = Fixture::new().await;
    let way = Way::to(&fixture.url).await;
    let server = Real::serve(Store::connect(&way.url, 2).await.unwrap(), Config::default()).await;
    let opening = async || server.call("GET", "/api/p/storage-a", "", "").await;
    assert_eq!(opening().await.0, 200);
    way.cut();
    let (status, head, problem) = opening().await;
    assert_eq!((status, problem["type"].as_str()), (503, Some("urn:lumbo:problem:away")), "{problem}");
    assert!(head.contains("retry-after: "), "{head}");
    // Nothing else is hidden behind it either, and the server itself is well.
    let token = format!("Authorization: Bearer {}\r\n", "0".repeat(64));
    assert_eq!(server.call("GET", "/api/conversation", &token, "").await.0, 503);
    assert_eq!(
        server.call("POST", "/api/sign-in", "", "{\"email\": \"author@a.example\", \"password\": \"x\"}").await.0,
        503
    );
    assert_eq!(server.call("GET", "/api/me", "Cookie: lumbo=AAAAAAAAAAAAAAAAAAAAAA\r\n", "").await.0, 503);
    assert_eq!(
        (server.call("GET", "/healthz", "", "").await.0, server.call("GET", "/readyz", "", "").await.0),
        (200, 503)
    );
    way.mend();
    assert_eq!(opening().await.0, 200, "it goes on by itself");
    // An address at which there is nothing is another matter.
    assert_eq!(server.call("GET", "/api/p/nothing-here", "", "").await.0, 404);
    server.stop().await;
}

#[tokio::test]
async fn a_database_that_is_not_there_yet_is_told_apart_from_one_that_refuses() {
    let way = Way::to(&database().await).await;
    way.cut();
    assert!(matches!(Store::connect(&way.url, 1).await, Err(StoreError::Away(_))));
    way.mend();
    assert!(Store::connect(&way.url, 1).await.is_ok());
    let wrong = way.url.replace("lumbo:", "nobody:");
    assert!(matches!(Store::connect(&wrong, 1).await, Err(StoreError::Database(_))), "a wrong name is not waited for");
}

#[tokio::test]
async fn one_address_that_takes_all_its_sockets_leaves_the_others_theirs() {
    let fixture = Fixture::new().await;
    let config = Config { sockets: Sockets { in_all: 100, from_one_address: 5 }, ..Config::default() };
    let server = Real::serve(fixture.store.clone(), config).await;
    // Heads that never end.
    let mut held = Vec::new();
    for _ in 0..5 {
        let mut slow = server.socket([127, 0, 0, 9]).await.unwrap();
        slow.write_all(b"GET / HTTP/1.1\r\nHost: lumbo.example\r\nX-Slow: ").await.unwrap();
        held.push(slow);
    }
    let mut more = server.socket([127, 0, 0, 9]).await.unwrap();
    let mut nothing = Vec::new();
    let ended = tokio::time::timeout(PATIENCE, more.read_to_end(&mut nothing)).await.unwrap();
    assert!(ended.is_err() || nothing.is_empty(), "one too many is closed without a word");
    assert_eq!(server.call("GET", "/healthz", "", "").await.0, 200, "who comes from elsewhere is answered");
    // A head that does not end in time loses its place.
    let mut answer = Vec::new();
    let slow = &mut held[0];
    let _ = tokio::time::timeout(PATIENCE, slow.read_to_end(&mut answer)).await.expect("a head has ten seconds");
    let text = String::from_utf8_lossy(&answer);
    assert!(text.is_empty() || text.contains("408"), "{text}");
    drop(held);
    server.stop().await;
}

#[tokio::test]
async fn a_body_that_stops_half_way_is_not_waited_for_when_the_server_stops() {
    let fixture = Fixture::new().await;
    let server = Real::serve(fixture.store.clone(), Config::default()).await;
    let mut half = server.socket([127, 0, 0, 1]).await.unwrap();
    half.write_all(
        b"POST /api/p/storage-a/conversations HTTP/1.1\r\nHost: lumbo.example\r\nContent-Type: \
            application/json\r\nContent-Length: 100\r\n\r\n{\"id\":",
    )
    .await
    .unwrap();
    let begun = std::time::Instant::now();
    server.stop().await;
    assert!(begun.elapsed().as_secs() < 15, "{:?}", begun.elapsed());
}
