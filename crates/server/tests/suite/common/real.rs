//! A real server on a port of its own, and plain requests over sockets.

use std::net::{IpAddr, SocketAddr};
use std::time::Duration;

use lumbo_server::Config;
use lumbo_store::Store;
use serde_json::Value;
use tokio::io::{AsyncBufReadExt, AsyncReadExt, AsyncWriteExt, BufReader};
use tokio::net::{TcpListener, TcpSocket, TcpStream};
use tokio::sync::oneshot;
use tokio::task::JoinHandle;

/// Nothing in these tests takes this long unless it hangs.
pub const PATIENCE: Duration = Duration::from_secs(20);

pub struct Real {
    pub address: SocketAddr,
    stop: Option<oneshot::Sender<()>>,
    served: JoinHandle<()>,
}

impl Real {
    pub async fn serve(store: Store, config: Config) -> Self {
        let listener = TcpListener::bind("127.0.0.1:0").await.unwrap();
        let address = listener.local_addr().unwrap();
        let (stop, stopped) = oneshot::channel();
        let served = tokio::spawn(async move {
            lumbo_server::serve(listener, store, &config, async move {
                let _ = stopped.await;
            })
            .await;
        });
        Self { address, stop: Some(stop), served }
    }

    /// Tells it to stop and waits until it has.
    pub async fn stop(mut self) {
        let _ = self.stop.take().unwrap().send(());
        tokio::time::timeout(PATIENCE, self.served).await.expect("a server that is told to stop ends").unwrap();
    }

    /// A socket from an address of the loopback range.
    pub async fn socket(&self, from: [u8; 4]) -> std::io::Result<TcpStream> {
        let socket = TcpSocket::new_v4()?;
        socket.bind(SocketAddr::new(IpAddr::from(from), 0))?;
        socket.connect(self.address).await
    }

    /// One request; gives its status, its head and its body.
    pub async fn call(&self, method: &str, path: &str, headers: &str, body: &str) -> (u16, String, Value) {
        let mut stream = self.socket([127, 0, 0, 1]).await.unwrap();
        let length = body.len();
        let request = format!(
            "{method} {path} HTTP/1.1\r\nHost: lumbo.example\r\nOrigin: https://lumbo.example\r\nConnection: \
             close\r\nContent-Type: application/json\r\nContent-Length: {length}\r\n{headers}\r\n{body}"
        );
        stream.write_all(request.as_bytes()).await.unwrap();
        let mut answer = Vec::new();
        tokio::time::timeout(PATIENCE, stream.read_to_end(&mut answer)).await.unwrap().unwrap();
        let text = String::from_utf8_lossy(&answer).into_owned();
        let (head, body) = text.split_once("\r\n\r\n").unwrap_or((&text, ""));
        let status = head.split(' ').nth(1).and_then(|status| status.parse().ok()).unwrap_or(0);
        (status, head.to_lowercase(), serde_json::from_str(body).unwrap_or(Value::String(body.to_owned())))
    }

    /// A stream of events, read line by line.
    pub async fn events(&self, topics: &str, cookie: &str, last: Option<&str>) -> Events {
        let mut stream = self.socket([127, 0, 0, 1]).await.unwrap();
        let last = last.map(|id| format!("Last-Event-ID: {id}\r\n")).unwrap_or_default();
        let request = format!(
            "GET /api/live?topics={topics} HTTP/1.1\r\nHost: lumbo.example\r\nCookie: {cookie}\r\nAccept: \
             text/event-stream\r\n{last}\r\n"
        );
        stream.write_all(request.as_bytes()).await.unwrap();
        let mut events = Events(BufReader::new(stream));
        let status = events.line().await.unwrap();
        assert!(status.contains("200"), "{status}");
        events
    }
}

pub struct Events(BufReader<TcpStream>);

/// An event: its name, its id and its data.
pub type Told = (String, String, String);

impl Events {
    async fn line(&mut self) -> Option<String> {
        let mut line = String::new();
        let read = tokio::time::timeout(PATIENCE, self.0.read_line(&mut line))
            .await
            .expect("a line comes in time")
            .unwrap_or(0);
        (read > 0).then(|| line.trim_end().to_owned())
    }

    /// The next event; nothing where the stream has ended.
    pub async fn next(&mut self) -> Option<Told> {
        let (mut name, mut id, mut data) = (String::new(), String::new(), String::new());
        loop {
            let line = self.line().await?;
            match line.split_once(": ").or_else(|| line.split_once(':')) {
                Some(("event", text)) => text.clone_into(&mut name),
                Some(("id", text)) => text.clone_into(&mut id),
                Some(("data", text)) => text.clone_into(&mut data),
                None if line.is_empty() && !name.is_empty() => return Some((name, id, data)),
                _ => {}
            }
        }
    }
}
