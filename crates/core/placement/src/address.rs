//! The address of a page, taken apart as the URL Standard (WHATWG) does. A path's segments are decoded once, each by
//! itself, so that an encoded slash stays a part of its segment (RFC 3986, section 2.4).

use percent_encoding::percent_decode_str;
use url::Url;

use crate::pattern::host_pattern;

/// Longest address, bytes.
const LONGEST: usize = 2_000;

/// The address of a page.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Address {
    /// The host, in lower case and as it goes over the wire.
    pub host: String,
    /// The port, the scheme's own where none is written.
    pub port: u16,
    /// The port where it is not the scheme's own.
    written_port: Option<u16>,
    /// The path's segments, decoded once, without a trailing slash.
    pub segments: Vec<String>,
    /// Query parameters, decoded.
    pub query: Vec<(String, String)>,
}

/// Why a text is not the address of a page.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum AddressError {
    /// Longer than 2,000 bytes.
    TooLong,
    /// Not an address.
    NotOne,
    /// An address, but not of a web page.
    NotAPage,
}

impl std::fmt::Display for AddressError {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        f.write_str(match self {
            Self::TooLong => "An address has at most 2,000 characters.",
            Self::NotOne => {
                "This is not the address of a page. Type one as the browser shows it, such as \
                 https://winterlode.example/prices."
            }
            Self::NotAPage => "Type the address of a web page: it begins with https:// or http://.",
        })
    }
}

impl std::error::Error for AddressError {}

impl Address {
    /// Reads an address; one without a scheme is taken as https.
    ///
    /// # Errors
    /// [`AddressError`].
    pub fn parse(text: &str) -> Result<Self, AddressError> {
        let text = text.trim();
        if text.len() > LONGEST {
            return Err(AddressError::TooLong);
        }
        let whole = if text.contains("://") { text.to_owned() } else { format!("https://{text}") };
        // A scheme without slashes, such as mailto; what is a port has digits behind its colon.
        if let Some((scheme, rest)) = text.split_once(':')
            && !rest.starts_with("//")
            && !rest.starts_with(|sign: char| sign.is_ascii_digit())
            && scheme.bytes().all(|byte| byte.is_ascii_alphabetic())
        {
            return Err(AddressError::NotAPage);
        }
        let url = Url::parse(&whole).map_err(|_| AddressError::NotOne)?;
        if !matches!(url.scheme(), "https" | "http") {
            return Err(AddressError::NotAPage);
        }
        let host = url.host_str().filter(|host| !host.is_empty()).ok_or(AddressError::NotOne)?;
        Ok(Self {
            host: host.trim_end_matches('.').to_owned(),
            port: url.port_or_known_default().unwrap_or_default(),
            written_port: url.port(),
            segments: segments(url.path()),
            query: url.query_pairs().map(|(name, value)| (name.into_owned(), value.into_owned())).collect(),
        })
    }

    /// Another page of the same site; nothing where the path is none. `query` is decoded already.
    #[must_use]
    pub fn with(&self, path: &str, query: Vec<(String, String)>) -> Option<Self> {
        if !path.starts_with('/') || path.len() > LONGEST {
            return None;
        }
        // The path alone is read: what stands behind a question mark in it is none of its segments.
        let url = Url::parse(&format!("https://site{path}")).ok()?;
        Some(Self { segments: segments(url.path()), query, ..self.clone() })
    }

    /// The value of a query parameter; the first where it is there several times.
    #[must_use]
    pub fn parameter(&self, name: &str) -> Option<&str> {
        self.query.iter().find(|(known, _)| known == name).map(|(_, value)| value.as_str())
    }

    /// The host with its port where it is not the scheme's own.
    #[must_use]
    pub fn authority(&self) -> String {
        self.written_port.map_or_else(|| self.host.clone(), |port| format!("{}:{port}", self.host))
    }

    /// The path, decoded, for people.
    #[must_use]
    pub fn path(&self) -> String {
        format!("/{}", self.segments.join("/"))
    }
}

/// A path's segments, decoded once, without a trailing slash.
pub(crate) fn segments(path: &str) -> Vec<String> {
    let path = path.strip_prefix('/').unwrap_or(path);
    let path = path.strip_suffix('/').unwrap_or(path);
    if path.is_empty() {
        return Vec::new();
    }
    path.split('/').map(|segment| percent_decode_str(segment).decode_utf8_lossy().into_owned()).collect()
}

/// The sources of a content security policy (CSP Level 3, host-source) that stand for a site; nothing where the text
/// could not be one.
#[must_use]
pub fn site_source(site: &str) -> Option<Vec<String>> {
    let site = host_pattern(site);
    let labels = site.split_once(':').map_or(site.as_str(), |(host, _)| host);
    let good = site.len() <= 260
        && site.bytes().all(|byte| byte.is_ascii_alphanumeric() || matches!(byte, b'.' | b'-' | b':' | b'*'))
        && site.split_once(':').is_none_or(|(_, port)| port.parse::<u16>().is_ok())
        && labels.split('.').enumerate().all(|(at, label)| {
            // A policy knows the star for a whole first label only.
            !label.is_empty() && (!label.contains('*') || at == 0 && label == "*")
        })
        && labels != "*";
    // A site without a port stands for each of its ports.
    let source = if site.contains(':') { site.clone() } else { format!("{site}:*") };
    good.then(|| {
        let secure = format!("https://{source}");
        if is_plain_allowed(&site) { vec![secure, format!("http://{source}")] } else { vec![secure] }
    })
}

/// True where a site may be reached without TLS: one with a port of its own, and addresses of this machine, as they are
/// used while a site is built.
#[must_use]
pub fn is_plain_allowed(site: &str) -> bool {
    site.contains(':') || site == "localhost" || site.parse::<std::net::Ipv4Addr>().is_ok_and(|ip| ip.is_loopback())
}
