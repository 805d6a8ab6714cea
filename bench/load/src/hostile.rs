//! A hostile or unlucky day: prospects answer as usual while others do what they can to be in the way.

use std::net::SocketAddr;
use std::sync::Arc;
use std::time::{Duration, Instant};

use anyhow::{Context as _, Result, anyhow, bail};
use serde_json::{Value, json};
use tokio::io::AsyncWriteExt;
use tokio::net::{TcpSocket, TcpStream};
use tokio::task::JoinSet;

use crate::REPLIES;
use crate::http::{call, raw_call};

/// How long each look takes.
const LOOK: Duration = Duration::from_secs(8);
/// Looks of which the middle one counts.
const LOOKS: usize = 3;

fn runtime() -> Result<tokio::runtime::Runtime> {
    Ok(tokio::runtime::Builder::new_current_thread().enable_all().build()?)
}

fn milliseconds(took: &mut [Duration], part: f64) -> f64 {
    took.sort_unstable();
    let place = ((took.len() as f64 * part) as usize).min(took.len().saturating_sub(1));
    took.get(place).copied().unwrap_or_default().as_secs_f64() * 1_000.0
}

/// So many prospects who answer once a second; gives how long each answer took.
async fn prospects(address: &Arc<str>, count: usize, until: Instant) -> Result<Vec<Duration>> {
    let mut tasks = JoinSet::new();
    for place in 0..count {
        let address = Arc::clone(address);
        tasks.spawn(async move {
            tokio::time::sleep(Duration::from_millis(1_000 * place as u64 / count as u64)).await;
            let mut connection = TcpStream::connect(&*address).await?;
            connection.set_nodelay(true)?;
            let mut took = Vec::new();
            'talks: loop {
                let started =
                    call(&mut connection, "/api/p/storage-enquiry/conversations", None, &json!({"id": "start"}))
                        .await?;
                let token = started["token"].as_str().context("no token")?.to_owned();
                for (index, reply) in REPLIES.iter().enumerate() {
                    let begun = Instant::now();
                    if begun >= until {
                        break 'talks;
                    }
                    let body = json!({"id": format!("i{index}"), "expects": index + 1, "body": {"kind": "reply",
                        "text": reply}});
                    call(&mut connection, "/api/conversation/inputs", Some(&token), &body).await?;
                    took.push(begun.elapsed());
                    tokio::time::sleep(Duration::from_secs(1).saturating_sub(begun.elapsed())).await;
                }
            }
            Ok::<_, anyhow::Error>(took)
        });
    }
    let mut all = Vec::new();
    while let Some(took) = tasks.join_next().await {
        all.extend(took??);
    }
    Ok(all)
}

/// An author who rehearses a long reply again and again.
async fn rehearses(address: Arc<str>, until: Instant) -> Result<usize> {
    let mut connection = TcpStream::connect(&*address).await?;
    let origin = "origin: http://bench\r\n";
    let sign_in = json!({"email": "edda@winterlode.example", "password": "keep it cold"});
    let (head, _) = raw_call(&mut connection, "POST", "/api/sign-in", origin, &sign_in).await?;
    let cookie = head
        .lines()
        .find_map(|line| line.strip_prefix("set-cookie: "))
        .and_then(|line| line.split(';').next())
        .context("no cookie")?
        .to_owned();
    let headers = format!("{origin}cookie: {cookie}\r\n");
    let (_, dialogues) = raw_call(&mut connection, "GET", "/api/dialogues", &headers, &Value::Null).await?;
    let id = dialogues[0]["id"].as_str().context("no dialogue")?.to_owned();
    let text = "1,1.".repeat(2_400);
    let inputs: Vec<Value> = std::iter::repeat_n(json!({"kind": "reply", "text": text}), 8).collect();
    let mut done = 0;
    while Instant::now() < until {
        raw_call(
            &mut connection,
            "POST",
            &format!("/api/dialogues/{id}/rehearsal"),
            &headers,
            &json!({"inputs": inputs}),
        )
        .await?;
        done += 1;
    }
    Ok(done)
}

/// Prospects alone, and beside four rehearsals of long replies; fails where their p99 rises by more than half.
pub fn long(address: &str, count: usize) -> Result<()> {
    let address: Arc<str> = Arc::from(address);
    runtime()?.block_on(async {
        let mut ratios = Vec::new();
        for _ in 0..LOOKS {
            let mut alone = prospects(&address, count, Instant::now() + LOOK).await?;
            let until = Instant::now() + LOOK;
            let authors: Vec<_> = (0..4).map(|_| tokio::spawn(rehearses(Arc::clone(&address), until))).collect();
            let mut beside = prospects(&address, count, until).await?;
            let mut rehearsed = 0;
            for author in authors {
                rehearsed += author.await??;
            }
            let (before, after) = (milliseconds(&mut alone, 0.99), milliseconds(&mut beside, 0.99));
            println!("alone {before:.1}, beside {rehearsed} rehearsals {after:.1}, ratio {:.2}", after / before);
            ratios.push(after / before);
        }
        ratios.sort_by(f64::total_cmp);
        if ratios[LOOKS / 2] > 1.5 {
            Err(anyhow!("the median ratio is {:.2}; 1.5 is the most", ratios[LOOKS / 2]))
        } else {
            Ok(())
        }
    })
}

/// Prospects beside heads that never end, all from one address.
pub fn slow_heads(address: &str, sockets: usize) -> Result<()> {
    let address: Arc<str> = Arc::from(address);
    runtime()?.block_on(async {
        let mut alone = prospects(&address, 20, Instant::now() + LOOK).await?;
        let server: SocketAddr = address.parse()?;
        let mut held = Vec::new();
        for _ in 0..sockets {
            let socket = TcpSocket::new_v4()?;
            socket.bind("127.0.0.9:0".parse()?)?;
            let mut stream = socket.connect(server).await?;
            // One too many is closed at once, which is the point.
            let _ = stream.write_all(b"GET / HTTP/1.1\r\nHost: bench\r\nX-Slow: ").await;
            held.push(stream);
        }
        let mut beside = prospects(&address, 20, Instant::now() + LOOK).await?;
        let mut connection = TcpStream::connect(&*address).await?;
        let (head, _) = raw_call(&mut connection, "GET", "/api/p/storage-enquiry", "", &Value::Null).await?;
        println!(
            "p99 alone {:.1}, beside {sockets} slow heads {:.1}; a new visitor gets {}",
            milliseconds(&mut alone, 0.99),
            milliseconds(&mut beside, 0.99),
            head.lines().next().unwrap_or_default()
        );
        Ok(())
    })
}

/// Prospects who try again until they are answered; fails where an acknowledged answer is lost or one waits for too
/// long.
pub fn patient(address: &str, count: usize, seconds: u64) -> Result<()> {
    let address: Arc<str> = Arc::from(address);
    let until = Instant::now() + Duration::from_secs(seconds);
    runtime()?.block_on(async {
        let mut tasks = JoinSet::new();
        for _ in 0..count {
            let address = Arc::clone(&address);
            tasks.spawn(async move {
                let (mut answered, mut longest) = (0_usize, Duration::ZERO);
                while Instant::now() < until {
                    let started =
                        insist(&address, "/api/p/storage-enquiry/conversations", None, &json!({"id": "start"})).await?;
                    let token = started["token"].as_str().context("no token")?.to_owned();
                    for (index, reply) in REPLIES.iter().enumerate() {
                        let body = json!({"id": format!("i{index}"), "expects": index + 1, "body": {"kind": "reply",
                            "text": reply}});
                        let begun = Instant::now();
                        let view = insist(&address, "/api/conversation/inputs", Some(&token), &body).await?;
                        if view["sequence"] != json!(index + 2) {
                            bail!("an answer was lost or taken twice: {view}");
                        }
                        longest = longest.max(begun.elapsed());
                        answered += 1;
                    }
                }
                Ok((answered, longest))
            });
        }
        let (mut answered, mut longest) = (0, Duration::ZERO);
        while let Some(done) = tasks.join_next().await {
            let (more, wait) = done??;
            answered += more;
            longest = longest.max(wait);
        }
        println!("{answered} answers, none lost; the longest wait was {:.1} s", longest.as_secs_f64());
        if longest > Duration::from_secs(10) { Err(anyhow!("ten seconds are the most")) } else { Ok(()) }
    })
}

/// Tries again until it is answered, as the page does.
async fn insist(address: &str, path: &str, token: Option<&str>, body: &Value) -> Result<Value> {
    let begun = Instant::now();
    loop {
        let tried = async {
            let mut connection = TcpStream::connect(address).await?;
            call(&mut connection, path, token, body).await
        };
        match tried.await {
            Ok(view) => return Ok(view),
            Err(error) if begun.elapsed() > Duration::from_secs(30) => return Err(error),
            Err(_) => tokio::time::sleep(Duration::from_millis(100)).await,
        }
    }
}
