//! Answered turns through HTTP and PostgreSQL. A small client of its own over keep-alive connections, so that the load
//! costs little of the machine it shares with the server.

use std::sync::Arc;
use std::time::{Duration, Instant};

use anyhow::{Context as _, Result, anyhow, bail};
use serde_json::{Value, json};
use tokio::io::{AsyncReadExt, AsyncWriteExt};
use tokio::net::TcpStream;

use crate::REPLIES;

pub fn run(address: &str, conversations: usize, seconds: u64) -> Result<()> {
    let runtime = tokio::runtime::Builder::new_current_thread().enable_all().build()?;
    runtime.block_on(async {
        let address: Arc<str> = Arc::from(address);
        let until = Instant::now() + Duration::from_secs(seconds);
        let begun = Instant::now();
        let tasks: Vec<_> = (0..conversations).map(|_| tokio::spawn(talk(Arc::clone(&address), until))).collect();
        let mut took: Vec<Duration> = Vec::new();
        for task in tasks {
            took.extend(task.await??);
        }
        let rate = took.len() as f64 / begun.elapsed().as_secs_f64();
        took.sort_unstable();
        let at = |part: f64| {
            took.get(((took.len() as f64 * part) as usize).min(took.len().saturating_sub(1)))
                .copied()
                .unwrap_or_default()
                .as_secs_f64()
                * 1000.0
        };
        println!("{conversations} {rate:.0} {:.1} {:.1}", at(0.5), at(0.99));
        Ok(())
    })
}

/// Holds one conversation after another; gives how long each answer took.
async fn talk(address: Arc<str>, until: Instant) -> Result<Vec<Duration>> {
    let mut connection = TcpStream::connect(&*address).await?;
    connection.set_nodelay(true)?;
    let mut took = Vec::new();
    while Instant::now() < until {
        let started =
            call(&mut connection, "/api/p/storage-enquiry/conversations", None, &json!({"id": "start"})).await?;
        let token = started["token"].as_str().context("no token")?.to_owned();
        for (index, reply) in REPLIES.iter().enumerate() {
            let body =
                json!({"id": format!("i{index}"), "expects": index + 1, "body": {"kind": "reply", "text": reply}});
            let begun = Instant::now();
            let answer = call(&mut connection, "/api/conversation/inputs", Some(&token), &body).await?;
            took.push(begun.elapsed());
            if answer["sequence"] != json!(index + 2) {
                bail!("an answer was not taken: {answer}");
            }
        }
    }
    Ok(took)
}

/// A prospect's request.
pub async fn call(connection: &mut TcpStream, path: &str, token: Option<&str>, body: &Value) -> Result<Value> {
    let bearer = token.map_or_else(String::new, |token| format!("authorization: Bearer {token}\r\n"));
    Ok(raw_call(connection, "POST", path, &bearer, body).await?.1)
}

/// A request with headers of one's own; gives the head of the answer and its body.
pub async fn raw_call(
    connection: &mut TcpStream,
    method: &str,
    path: &str,
    headers: &str,
    body: &Value,
) -> Result<(String, Value)> {
    let body = if body.is_null() { String::new() } else { body.to_string() };
    let request = format!(
        "{method} {path} HTTP/1.1\r\nhost: bench\r\ncontent-type: application/json\r\n{headers}content-length: \
         {}\r\n\r\n{body}",
        body.len()
    );
    connection.write_all(request.as_bytes()).await?;
    let mut buffer = Vec::with_capacity(4096);
    loop {
        if connection.read_buf(&mut buffer).await? == 0 {
            bail!("the server closed the connection");
        }
        let Some(head_end) = buffer.windows(4).position(|window| window == b"\r\n\r\n") else { continue };
        let head = std::str::from_utf8(&buffer[..head_end])?.to_owned();
        let length: usize = head
            .lines()
            .find_map(|line| line.strip_prefix("content-length: "))
            .ok_or_else(|| anyhow!("no length in: {head}"))?
            .trim()
            .parse()?;
        if buffer.len() < head_end + 4 + length {
            continue;
        }
        let json: Value = serde_json::from_slice(&buffer[head_end + 4..head_end + 4 + length])?;
        if !head.starts_with("HTTP/1.1 200") {
            bail!("{json}");
        }
        return Ok((head, json));
    }
}
