//! Two servers on one database are replaced one after the other while prospects answer: whoever tries again, as the
//! prospect's page does, notices nothing.
#![allow(clippy::unwrap_used, clippy::panic, reason = "helpers of tests are tests")]

use std::sync::atomic::{AtomicBool, AtomicUsize, Ordering};
use std::sync::{Arc, Mutex};
use std::time::{Duration, Instant};

use crate::common::real::Real;
use crate::common::{Fixture, connected};
use lumbo_server::Config;
use serde_json::{Value, json};
use tokio::io::{AsyncReadExt, AsyncWriteExt};
use tokio::net::TcpStream;

/// Prospects that answer at once.
const PROSPECTS: usize = 8;
/// How long somebody goes on trying before a request counts as failed.
const PATIENCE: Duration = Duration::from_secs(10);

/// Where the servers are just now.
#[derive(Clone)]
struct Servers(Arc<Mutex<Vec<std::net::SocketAddr>>>);

/// What went on.
#[derive(Default)]
struct Seen {
    answered: AtomicUsize,
    tried_again: AtomicUsize,
    filed: AtomicUsize,
}

/// One attempt; nothing where no whole answer came.
async fn attempt(at: std::net::SocketAddr, token: Option<&str>, path: &str, body: &Value) -> Option<(u16, Value)> {
    let mut stream = TcpStream::connect(at).await.ok()?;
    let body = body.to_string();
    let bearer = token.map(|token| format!("Authorization: Bearer {token}\r\n")).unwrap_or_default();
    let request = format!(
        "POST {path} HTTP/1.1\r\nHost: lumbo.example\r\nConnection: close\r\nContent-Type: application/json\r\n\
         {bearer}Content-Length: {}\r\n\r\n{body}",
        body.len()
    );
    stream.write_all(request.as_bytes()).await.ok()?;
    let mut answer = Vec::new();
    stream.read_to_end(&mut answer).await.ok()?;
    let text = String::from_utf8_lossy(&answer).into_owned();
    let (head, body) = text.split_once("\r\n\r\n")?;
    let status = head.split(' ').nth(1)?.parse().ok()?;
    Some((status, serde_json::from_str(body).ok()?))
}

impl Servers {
    /// The same request until a server answers it, each time at another one.
    async fn ask(&self, seen: &Seen, turn: usize, token: Option<&str>, path: &str, body: &Value) -> Value {
        let begun = Instant::now();
        for time in turn.. {
            let at = {
                let known = self.0.lock().unwrap();
                known[time % known.len()]
            };
            match attempt(at, token, path, body).await {
                Some((200, answer)) => {
                    seen.answered.fetch_add(1, Ordering::Relaxed);
                    return answer;
                }
                // It stops, or the database is not there for a moment: said so, and worth another try.
                None | Some((502 | 503, _)) => {}
                Some((status, answer)) => panic!("{path}: {status} {answer}"),
            }
            assert!(begun.elapsed() < PATIENCE, "{path} was not answered within {PATIENCE:?}");
            seen.tried_again.fetch_add(1, Ordering::Relaxed);
            tokio::time::sleep(Duration::from_millis(20)).await;
        }
        unreachable!("the loop ends by answering or by failing")
    }

    /// A whole conversation that files a lead.
    async fn converse(&self, seen: &Seen, who: usize, round: usize) {
        let start = json!({"id": format!("start-{who}-{round}")});
        let started = self.ask(seen, who, None, "/api/p/storage-a/conversations", &start).await;
        let token = started["token"].as_str().unwrap().to_owned();
        let firm = format!("firm{who}x{round}");
        let email = format!("pia@{firm}.example");
        let words = ["storage", "frozen", "no", "340", "owner", "Pia Lindqvist", &firm, &email, "020 7946 0014"];
        for (index, text) in words.iter().enumerate() {
            let sequence = index + 1;
            let body =
                json!({"id": format!("i{sequence}"), "expects": sequence, "body": {"kind": "reply", "text": text}});
            self.ask(seen, who + index, Some(&token), "/api/conversation/inputs", &body).await;
        }
        seen.filed.fetch_add(1, Ordering::Relaxed);
    }
}

#[tokio::test(flavor = "multi_thread", worker_threads = 2)]
async fn servers_are_replaced_one_after_the_other_and_no_request_fails_for_good() {
    let fixture = Fixture::new().await;
    let config = Config {
        prospect_requests_per_minute: 1_000_000,
        starts_per_hour: 1_000_000,
        filings_per_hour: 1_000_000,
        secret_key: Some([7; 32]),
        ..Config::default()
    };
    let begin = async || Real::serve(connected(&fixture.url, 4).await, config.clone()).await;
    let mut running = vec![begin().await, begin().await];
    let servers = Servers(Arc::new(Mutex::new(running.iter().map(|real| real.address).collect())));
    let (seen, over) = (Arc::new(Seen::default()), Arc::new(AtomicBool::new(false)));
    let prospects: Vec<_> = (0..PROSPECTS)
        .map(|who| {
            let (servers, seen, over) = (servers.clone(), Arc::clone(&seen), Arc::clone(&over));
            tokio::spawn(async move {
                let mut round = 0;
                while !over.load(Ordering::Relaxed) {
                    servers.converse(&seen, who, round).await;
                    round += 1;
                }
            })
        })
        .collect();
    for place in [0, 1, 0, 1] {
        tokio::time::sleep(Duration::from_millis(300)).await;
        // The next version begins first; then the one before is told to stop, which finishes what is under way.
        let next = begin().await;
        let old = std::mem::replace(&mut running[place], next);
        let answered = seen.answered.load(Ordering::Relaxed);
        old.stop().await;
        servers.0.lock().unwrap()[place] = running[place].address;
        while seen.answered.load(Ordering::Relaxed) < answered + PROSPECTS {
            tokio::time::sleep(Duration::from_millis(10)).await;
        }
    }
    over.store(true, Ordering::Relaxed);
    for prospect in prospects {
        prospect.await.unwrap();
    }
    let mut db = fixture.connect().await;
    let leads = "select count(*) from leads l join workspaces w on w.id = l.workspace_id where w.slug = 'a'";
    let leads: i64 = sqlx::query_scalar(leads).fetch_one(&mut db).await.unwrap();
    let filed = seen.filed.load(Ordering::Relaxed);
    assert_eq!(leads, i64::try_from(filed).unwrap(), "every conversation has its one lead");
    assert!(filed >= PROSPECTS && seen.tried_again.load(Ordering::Relaxed) > 0, "servers did stop meanwhile");
    for real in running {
        real.stop().await;
    }
}
