//! Where a request comes from. Behind proxies the true address stands in a header; that is believed as far as it was
//! written by proxies that are trusted by name, and no further: whoever can write the header can write anything.

use std::net::{IpAddr, SocketAddr};

use axum::extract::{ConnectInfo, Request, State};
use axum::http::{HeaderMap, header};
use axum::middleware::Next;
use axum::response::Response;
use ipnet::IpNet;

use crate::App;

/// The true address of whoever asks.
#[derive(Debug, Clone, Copy)]
pub(crate) struct ClientAddress(pub(crate) IpAddr);

impl ClientAddress {
    /// The network that limits count by: an IPv4 address, or the first 64 bits of an IPv6 address, which one household
    /// or machine has for itself.
    pub(crate) fn network(self) -> IpAddr {
        match self.0.to_canonical() {
            IpAddr::V6(address) => {
                let mut octets = address.octets();
                octets[8..].fill(0);
                IpAddr::from(octets)
            }
            address @ IpAddr::V4(_) => address,
        }
    }
}

/// Puts the true address beside every request.
pub(crate) async fn find(State(app): State<App>, mut request: Request, next: Next) -> Response {
    let peer = request
        .extensions()
        .get::<ConnectInfo<SocketAddr>>()
        .map_or(IpAddr::from([0, 0, 0, 0]), |info| info.0.ip())
        .to_canonical();
    let found = true_address(peer, request.headers(), &app.trusted_proxies);
    request.extensions_mut().insert(ClientAddress(found));
    next.run(request).await
}

/// The last address of the chain that no trusted proxy has. `Forwarded` (RFC 7239) goes before `X-Forwarded-For`.
pub(crate) fn true_address(peer: IpAddr, headers: &HeaderMap, trusted: &[IpNet]) -> IpAddr {
    let is_trusted = |address: &IpAddr| trusted.iter().any(|network| network.contains(address));
    if !is_trusted(&peer) {
        return peer;
    }
    let listed = |name: header::HeaderName| {
        let lines = headers.get_all(name).iter().map(|value| value.to_str().unwrap_or_default());
        lines.collect::<Vec<_>>().join(",")
    };
    let chain: Vec<Option<IpAddr>> = if headers.contains_key(header::FORWARDED) {
        listed(header::FORWARDED).split(',').map(forwarded_for).collect()
    } else {
        listed(header::HeaderName::from_static("x-forwarded-for")).split(',').map(node).collect()
    };
    let mut last = peer;
    for address in chain.into_iter().rev() {
        // One that cannot be read ends what can be believed.
        let Some(address) = address else { break };
        last = address;
        if !is_trusted(&last) {
            break;
        }
    }
    last
}

/// The `for` of an element of `Forwarded`.
fn forwarded_for(element: &str) -> Option<IpAddr> {
    element.split(';').find_map(|pair| {
        let (name, value) = pair.split_once('=')?;
        name.trim().eq_ignore_ascii_case("for").then(|| node(value))?
    })
}

/// An address, perhaps quoted, in brackets, or with a port (RFC 7239, section 6).
fn node(text: &str) -> Option<IpAddr> {
    let text = text.trim().trim_matches('"');
    if let Some(rest) = text.strip_prefix('[') {
        return rest.split_once(']')?.0.parse::<IpAddr>().ok().map(|address| address.to_canonical());
    }
    let address = text.parse::<IpAddr>().ok().or_else(|| text.parse::<SocketAddr>().ok().map(|socket| socket.ip()))?;
    Some(address.to_canonical())
}

#[cfg(test)]
#[allow(clippy::unwrap_used, reason = "tests")]
mod tests {
    use axum::http::HeaderValue;

    use super::*;

    fn check(peer: &str, header: &'static str, value: &'static str, expected: &str) {
        let trusted: Vec<IpNet> = ["10.0.0.0/8", "2001:db8:ffff::/48"].iter().map(|net| net.parse().unwrap()).collect();
        let mut headers = HeaderMap::new();
        headers.insert(header, HeaderValue::from_static(value));
        let found = true_address(peer.parse().unwrap(), &headers, &trusted);
        assert_eq!(found, expected.parse::<IpAddr>().unwrap(), "{peer} {header}: {value}");
    }

    #[test]
    fn only_what_trusted_proxies_wrote_is_believed() {
        for (peer, value, expected) in [
            // Nobody in front: the header is whatever the client likes.
            ("203.0.113.9", "198.51.100.1", "203.0.113.9"),
            ("10.0.0.1", "198.51.100.1", "198.51.100.1"),
            // The client wrote the first, the proxy the second.
            ("10.0.0.1", "1.2.3.4, 198.51.100.1", "198.51.100.1"),
            ("10.0.0.1", "1.2.3.4, 198.51.100.1, 10.0.0.2", "198.51.100.1"),
            ("10.0.0.1", "10.0.0.3, 10.0.0.2", "10.0.0.3"),
            ("10.0.0.1", "198.51.100.1:4711", "198.51.100.1"),
            ("10.0.0.1", "[2001:db8::7]:4711", "2001:db8::7"),
            ("10.0.0.1", "2001:db8::7", "2001:db8::7"),
            ("10.0.0.1", "::ffff:198.51.100.1", "198.51.100.1"),
            ("2001:db8:ffff::1", "198.51.100.1", "198.51.100.1"),
            // What cannot be read ends what can be believed.
            ("10.0.0.1", "198.51.100.1, unknown", "10.0.0.1"),
            ("10.0.0.1", "198.51.100.1, nonsense, 10.0.0.2", "10.0.0.2"),
            ("10.0.0.1", "", "10.0.0.1"),
        ] {
            check(peer, "x-forwarded-for", value, expected);
        }
    }

    /// The forms of RFC 7239, section 4 and 6.
    #[test]
    fn the_standard_header_is_read_in_every_form_of_its_rfc() {
        for (value, expected) in [
            ("for=192.0.2.60;proto=http;by=203.0.113.43", "192.0.2.60"),
            ("For=\"[2001:db8:cafe::17]:4711\"", "2001:db8:cafe::17"),
            ("for=192.0.2.43, for=198.51.100.17", "198.51.100.17"),
            ("for=192.0.2.43, for=\"_gazonk\"", "10.0.0.1"),
            ("proto=https", "10.0.0.1"),
        ] {
            check("10.0.0.1", "forwarded", value, expected);
        }
    }

    #[test]
    fn a_household_of_ipv6_is_one_network() {
        let network = |text: &str| ClientAddress(text.parse().unwrap()).network().to_string();
        assert_eq!(network("2001:db8:1:2:3:4:5:6"), "2001:db8:1:2::");
        assert_eq!(network("::ffff:198.51.100.1"), "198.51.100.1");
        assert_eq!(network("198.51.100.1"), "198.51.100.1");
    }
}
