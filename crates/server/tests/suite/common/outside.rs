//! The stand-ins that ship with Lumbo, on a port of their own, and plain requests to them.

use lumbo_standins::mailbox::Mailbox;
use tokio::net::TcpListener;

/// Serves stand-ins that keep nothing; gives where they are, and the host by itself.
pub async fn standins() -> (String, String) {
    let listener = TcpListener::bind("127.0.0.1:0").await.unwrap();
    let host = listener.local_addr().unwrap().to_string();
    let standins = format!("http://{host}");
    let app = lumbo_standins::router(&lumbo_standins::Options::quiet(&standins), Mailbox::default()).unwrap();
    tokio::spawn(async move { axum::serve(listener, app).await.unwrap() });
    (standins, host)
}

/// A request over a plain socket: the application's own client refuses what it does not know.
pub async fn spoken(request: String, host: &str) -> String {
    use tokio::io::{AsyncReadExt, AsyncWriteExt};
    let mut socket = tokio::net::TcpStream::connect(host).await.unwrap();
    socket.write_all(request.as_bytes()).await.unwrap();
    let mut answer = String::new();
    socket.read_to_string(&mut answer).await.unwrap();
    answer
}

fn parts(url: &str) -> (&str, &str) {
    let rest = url.strip_prefix("http://").unwrap();
    rest.split_at(rest.find('/').unwrap())
}

pub async fn get(url: &str) -> String {
    let (host, path) = parts(url);
    let request = format!("GET {path} HTTP/1.1\r\nhost: {host}\r\nconnection: close\r\n\r\n");
    spoken(request, host).await.split_once("\r\n\r\n").unwrap().1.to_owned()
}

pub async fn form_post(url: &str, form: &str) -> (String, String) {
    let (host, path) = parts(url);
    let request = format!(
        "POST {path} HTTP/1.1\r\nhost: {host}\r\nconnection: close\r\n\
         content-type: application/x-www-form-urlencoded\r\ncontent-length: {}\r\n\r\n{form}",
        form.len()
    );
    let answer = spoken(request, host).await;
    let (head, body) = answer.split_once("\r\n\r\n").unwrap();
    assert!(head.starts_with("HTTP/1.1 303"), "{answer}");
    (head.to_owned(), body.to_owned())
}
