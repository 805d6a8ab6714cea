//! Two servers on one database, one of them killed again and again while fifty conversations answer: nothing that was
//! acknowledged is lost, and nothing is done twice. `LUMBO_KILLS` sets how often; the bench does a thousand.
#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic, reason = "helpers of tests are tests")]

use std::io::{Read, Write};
use std::net::TcpStream;
use std::process::{Child, Command, Stdio};
use std::sync::atomic::{AtomicBool, AtomicUsize, Ordering};
use std::sync::{Arc, Mutex};
use std::thread::sleep;
use std::time::{Duration, Instant};

use serde_json::{Value, json};
use sqlx::{Connection, Executor, PgConnection};

const CONVERSATIONS: usize = 50;
/// Letters only: a name with digits in it is none.
const FAMILIES: [&str; 10] = ["Ash", "Birch", "Cedar", "Dogwood", "Elm", "Fir", "Gorse", "Hazel", "Ivy", "Juniper"];

/// A server that is started again after every kill.
struct Server {
    port: u16,
    database: String,
    child: Child,
}

impl Server {
    fn start(database: &str) -> Self {
        // Free a moment ago; a port that somebody took since would end the test with a clear word.
        let port = std::net::TcpListener::bind("127.0.0.1:0").unwrap().local_addr().unwrap().port();
        let child = Self::spawn(database, port);
        let server = Self { port, database: database.to_owned(), child };
        server.wait();
        server
    }

    fn spawn(database: &str, port: u16) -> Child {
        Command::new(env!("CARGO_BIN_EXE_lumbo"))
            .args([
                "serve",
                "--listen",
                &format!("127.0.0.1:{port}"),
                "--connections",
                "4",
                "--filings-per-hour",
                "1000000",
                "--starts-per-hour",
                "1000000000",
                "--prospect-requests-per-minute",
                "1000000000",
            ])
            .env("DATABASE_URL", database)
            .stdout(Stdio::null())
            .stderr(Stdio::null())
            .spawn()
            .unwrap()
    }

    fn wait(&self) {
        let begun = Instant::now();
        while TcpStream::connect(("127.0.0.1", self.port)).is_err() {
            assert!(begun.elapsed() < Duration::from_secs(60), "the server does not come up");
            sleep(Duration::from_millis(10));
        }
    }

    /// SIGKILL, and a new one.
    fn kill(&mut self) {
        self.child.kill().unwrap();
        self.child.wait().unwrap();
        self.child = Self::spawn(&self.database, self.port);
        self.wait();
    }
}

impl Drop for Server {
    fn drop(&mut self) {
        let _ = self.child.kill();
        let _ = self.child.wait();
    }
}

/// One request; nothing where the server was not there or went away.
fn call(port: u16, method: &str, path: &str, token: Option<&str>, body: &str) -> Option<(u16, Value)> {
    let mut stream = TcpStream::connect(("127.0.0.1", port)).ok()?;
    stream.set_read_timeout(Some(Duration::from_secs(20))).ok()?;
    let bearer = token.map_or_else(String::new, |token| format!("Authorization: Bearer {token}\r\n"));
    let length = body.len();
    let head = format!(
        "{method} {path} HTTP/1.1\r\nHost: kills\r\nConnection: close\r\nContent-Type: \
         application/json\r\n{bearer}Content-Length: {length}\r\n\r\n"
    );
    stream.write_all(head.as_bytes()).ok()?;
    stream.write_all(body.as_bytes()).ok()?;
    let mut answer = String::new();
    stream.read_to_string(&mut answer).ok()?;
    let (head, body) = answer.split_once("\r\n\r\n")?;
    let status = head.split(' ').nth(1)?.parse().ok()?;
    Some((status, serde_json::from_str(body).ok()?))
}

/// A conversation as its prospect knows it.
struct Known {
    token: String,
    /// Answers that were acknowledged, and the start.
    acknowledged: u64,
    email: String,
    ended: bool,
}

/// Tries until a server takes it, one after the other.
fn insist(ports: [u16; 2], turn: usize, path: &str, token: Option<&str>, body: &Value) -> Value {
    let begun = Instant::now();
    for attempt in turn.. {
        match call(ports[attempt % 2], "POST", path, token, &body.to_string()) {
            Some((200, view)) => return view,
            Some((503, _)) | None => {}
            Some((status, problem)) => panic!("{body} came to {status}: {problem}"),
        }
        assert!(begun.elapsed() < Duration::from_secs(60), "nobody takes {body}");
        sleep(Duration::from_millis(15));
    }
    unreachable!("attempts do not end")
}

/// Holds one conversation after another until told to stop, with the last one cut short.
fn prospect(ports: [u16; 2], number: usize, over: &AtomicBool, [counted, ended]: [&AtomicUsize; 2]) -> Vec<Known> {
    let mut all = Vec::new();
    while !over.load(Ordering::Relaxed) {
        let n = counted.fetch_add(1, Ordering::Relaxed);
        let email = format!("maud{n}@firm{}.example", n % 50);
        let name = format!("Maud {}", FAMILIES[n % 10]);
        let started = insist(ports, number, "/api/p/storage-enquiry/conversations", None, &json!({"id": "start"}));
        let mut known =
            Known { token: started["token"].as_str().unwrap().to_owned(), acknowledged: 1, email, ended: false };
        let replies =
            ["Blast freezing", "frozen", "yes", "250", "owner", &name, "Harrow Peel", &known.email, "020 7946 0588"]
                .map(str::to_owned);
        for reply in replies {
            if over.load(Ordering::Relaxed) {
                break;
            }
            let body = json!({"id": format!("i{}", known.acknowledged), "expects": known.acknowledged,
                "body": {"kind": "reply", "text": reply}});
            let view = insist(ports, number, "/api/conversation/inputs", Some(&known.token), &body);
            known.acknowledged += 1;
            assert_eq!(view["sequence"], json!(known.acknowledged), "each answer is taken once: {view}");
            known.ended = view["ended"] == json!(true);
        }
        ended.fetch_add(usize::from(known.ended), Ordering::Relaxed);
        all.push(known);
    }
    all
}

async fn database() -> String {
    let server = std::env::var("LUMBO_TEST_DATABASE_SERVER")
        .expect("set LUMBO_TEST_DATABASE_SERVER to a PostgreSQL server, or run ./test, which does");
    let name = format!("kills_{}", std::process::id());
    let mut admin = PgConnection::connect(&format!("{server}/postgres")).await.unwrap();
    admin.execute(sqlx::AssertSqlSafe(format!("create database {name}"))).await.unwrap();
    format!("{server}/{name}")
}

#[test]
fn nothing_acknowledged_is_lost_and_nothing_is_doubled_when_servers_are_killed() {
    let kills: usize = std::env::var("LUMBO_KILLS").ok().and_then(|kills| kills.parse().ok()).unwrap_or(20);
    let runtime = tokio::runtime::Builder::new_current_thread().enable_all().build().unwrap();
    let url = runtime.block_on(database());
    let demo = Command::new(env!("CARGO_BIN_EXE_lumbo"))
        .arg("demo")
        .env("DATABASE_URL", &url)
        .stdout(Stdio::null())
        .status()
        .unwrap();
    assert!(demo.success());
    let mut servers = [Server::start(&url), Server::start(&url)];
    let ports = [servers[0].port, servers[1].port];
    let over = Arc::new(AtomicBool::new(false));
    let (counted, ended) = (Arc::new(AtomicUsize::new(0)), Arc::new(AtomicUsize::new(0)));
    let enough = CONVERSATIONS.min(kills);
    let all: Mutex<Vec<Known>> = Mutex::new(Vec::new());
    std::thread::scope(|scope| {
        for number in 0..CONVERSATIONS {
            let (over, counted, ended, all) = (&over, &counted, &ended, &all);
            scope.spawn(move || {
                let held = prospect(ports, number, over, [counted, ended]);
                all.lock().unwrap().extend(held);
            });
        }
        for kill in 0..kills {
            // Spread over what a server may be doing, the same at every run.
            sleep(Duration::from_millis(40 + (kill as u64 * 37) % 160));
            servers[kill % 2].kill();
        }
        // A slow machine has time to bring as many to their end as a quick one.
        let until = Instant::now() + Duration::from_secs(60);
        while ended.load(Ordering::Relaxed) < enough && Instant::now() < until {
            sleep(Duration::from_millis(50));
        }
        over.store(true, Ordering::Relaxed);
    });
    let all = all.into_inner().unwrap();
    let ended = all.iter().filter(|known| known.ended).count();
    assert!(ended >= enough, "only {ended} conversations came to an end");
    for known in &all {
        let (status, view) = call(ports[0], "GET", "/api/conversation", Some(&known.token), "").unwrap();
        assert_eq!(
            (status, view["sequence"].as_u64(), view["ended"].as_bool()),
            (200, Some(known.acknowledged), Some(known.ended))
        );
    }
    runtime.block_on(async {
        let mut db = PgConnection::connect(&url).await.unwrap();
        let emails: Vec<String> = all.iter().filter(|known| known.ended).map(|known| known.email.clone()).collect();
        let filed: i64 = sqlx::query_scalar(
            "select count(*) from lead_snapshots where email =
            any($1)",
        )
        .bind(&emails)
        .fetch_one(&mut db)
        .await
        .unwrap();
        let people: i64 = sqlx::query_scalar(
            "select count(*) from contacts where email =
            any($1)",
        )
        .bind(&emails)
        .fetch_one(&mut db)
        .await
        .unwrap();
        assert_eq!(
            (filed, people),
            (i64::try_from(emails.len()).unwrap(), filed),
            "each filed once, each a person of \
            their own"
        );
        let again: i64 = sqlx::query_scalar(
            "select count(*) from lead_snapshots where filings <>
            1",
        )
        .fetch_one(&mut db)
        .await
        .unwrap();
        let gaps = "select count(*) from (select conversation_id from conversation_events group by 1 having count(*)
            <> max(number) + 1) broken";
        let gaps: i64 = sqlx::query_scalar(gaps).fetch_one(&mut db).await.unwrap();
        let halves = "select count(*) from conversations c where events <> (select count(*) from conversation_events
            e where e.conversation_id = c.id)";
        let halves: i64 = sqlx::query_scalar(halves).fetch_one(&mut db).await.unwrap();
        assert_eq!((again, gaps, halves), (0, 0, 0), "filed again, events missing, states beside their events");
        // A filing writes many rows: all of them, or none.
        let count = async |db: &mut PgConnection, what: &'static str| -> i64 {
            sqlx::query_scalar(what).fetch_one(db).await.unwrap()
        };
        let unlogged = "select count(*) from leads l where not exists (select from activities a
            where a.workspace_id = l.workspace_id and a.lead_id = l.id)";
        let unsaid = "select count(*) from lead_snapshots s join conversations c on c.id = s.conversation_id
            where not c.entered and not exists (select from conversation_events e
              where e.conversation_id = s.conversation_id and e.kind = 'filed')";
        let unvalued =
            "select count(*) from leads l where not exists (select from lead_values v where v.lead_id = l.id)";
        let turns = "select count(*) from (select queue_id from queue_members group by 1 having sum(rotation) <> 0) q";
        for half in [unlogged, unsaid, unvalued, turns] {
            assert_eq!(count(&mut db, half).await, 0, "half-written: {half}");
        }
    });
    println!("{kills} kills, {} conversations, {ended} to their end", all.len());
}
