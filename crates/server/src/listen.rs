//! Sockets: how many in all and from one address, how long a head may take, and an end that comes in time.
//!
//! A head that never ends, a socket that says nothing and a body that stops half way each cost a place for seconds
//! only; one address cannot take the places of the others.

use std::collections::HashMap;
use std::net::{IpAddr, SocketAddr};
use std::sync::{Arc, Mutex, PoisonError};
use std::time::Duration;

use axum::Router;
use axum::extract::ConnectInfo;
use axum::extract::Request;
use hyper::body::Incoming;
use hyper_util::rt::{TokioIo, TokioTimer};
use hyper_util::server::graceful::GracefulShutdown;
use tokio::net::{TcpListener, TcpStream};
use tower::ServiceExt;

/// How long a request's head may take, and an open connection may be quiet between two requests.
const HEAD: Duration = Duration::from_secs(10);
/// How long requests under way may take once the server stops.
const FINISH: Duration = Duration::from_secs(10);
/// How long accepting waits after a failure such as too many open files.
const AFTER_FAILURE: Duration = Duration::from_millis(100);

/// Limits on sockets.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Sockets {
    /// At most so many open at once.
    pub in_all: usize,
    /// At most so many from one address; behind a proxy, as many as the proxy opens.
    pub from_one_address: usize,
}

impl Default for Sockets {
    fn default() -> Self {
        Self { in_all: 4_000, from_one_address: 1_000 }
    }
}

/// Open sockets by address.
#[derive(Debug, Default)]
struct Open {
    all: usize,
    by_address: HashMap<IpAddr, usize>,
}

/// A socket's place, free again once it is dropped.
struct Place {
    open: Arc<Mutex<Open>>,
    address: IpAddr,
}

impl Place {
    fn take(open: &Arc<Mutex<Open>>, address: IpAddr, limits: Sockets) -> Option<Self> {
        let mut taken = open.lock().unwrap_or_else(PoisonError::into_inner);
        let all = taken.all;
        let here = taken.by_address.entry(address).or_default();
        if all >= limits.in_all || *here >= limits.from_one_address {
            return None;
        }
        *here += 1;
        taken.all += 1;
        Some(Self { open: Arc::clone(open), address })
    }
}

impl Drop for Place {
    fn drop(&mut self) {
        let mut taken = self.open.lock().unwrap_or_else(PoisonError::into_inner);
        taken.all = taken.all.saturating_sub(1);
        if let Some(here) = taken.by_address.get_mut(&self.address) {
            *here = here.saturating_sub(1);
            if *here == 0 {
                taken.by_address.remove(&self.address);
            }
        }
    }
}

/// Serves until `stop` ends; what is under way then has ten seconds.
pub(crate) async fn serve(listener: TcpListener, app: Router, limits: Sockets, stop: impl Future<Output = ()> + Send) {
    let open = Arc::new(Mutex::new(Open::default()));
    let graceful = GracefulShutdown::new();
    let mut stop = std::pin::pin!(stop);
    loop {
        let accepted = tokio::select! {
            accepted = listener.accept() => accepted,
            () = &mut stop => break,
        };
        let (stream, address) = match accepted {
            Ok(accepted) => accepted,
            Err(error) => {
                tracing::warn!(%error, "a socket could not be accepted");
                tokio::time::sleep(AFTER_FAILURE).await;
                continue;
            }
        };
        // Behind one place too many it is closed without a word: a word would cost what the limit saves.
        match Place::take(&open, address.ip(), limits) {
            Some(place) => drop(tokio::spawn(connection(stream, address, place, app.clone(), graceful.watcher()))),
            None => metrics::counter!("lumbo_sockets_refused_total").increment(1),
        }
    }
    drop(listener);
    if tokio::time::timeout(FINISH, graceful.shutdown()).await.is_err() {
        tracing::warn!("requests that took too long were cut off");
    }
}

async fn connection(
    stream: TcpStream,
    address: SocketAddr,
    _place: Place,
    app: Router,
    watcher: hyper_util::server::graceful::Watcher,
) {
    let _ = stream.set_nodelay(true);
    let service = hyper::service::service_fn(move |request: Request<Incoming>| {
        let mut request = request.map(axum::body::Body::new);
        request.extensions_mut().insert(ConnectInfo(address));
        app.clone().oneshot(request)
    });
    let served = hyper::server::conn::http1::Builder::new()
        .timer(TokioTimer::new())
        .header_read_timeout(HEAD)
        .max_buf_size(64 * 1024)
        .serve_connection(TokioIo::new(stream), service);
    // A connection that breaks is the other side's to know.
    let _ = watcher.watch(served).await;
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn one_address_cannot_take_the_places_of_others() {
        let open = Arc::new(Mutex::new(Open::default()));
        let limits = Sockets { in_all: 3, from_one_address: 2 };
        let (one, other) = (IpAddr::from([127, 0, 0, 1]), IpAddr::from([127, 0, 0, 2]));
        let first = Place::take(&open, one, limits);
        let second = Place::take(&open, one, limits);
        assert!(first.is_some() && second.is_some() && Place::take(&open, one, limits).is_none());
        let third = Place::take(&open, other, limits);
        assert!(third.is_some() && Place::take(&open, other, limits).is_none(), "three in all");
        drop(first);
        assert!(Place::take(&open, one, limits).is_some());
        drop((second, third));
        assert!(open.lock().unwrap().by_address.is_empty());
    }
}
