//! Requests that leave Lumbo: one client, which resolves a name once, refuses what is not public, and connects to the
//! address that it checked. Redirects are not followed, and little is read.

pub(crate) mod deliver;
pub mod mail;
pub(crate) mod prepare;
pub(crate) mod records;

use std::net::{IpAddr, SocketAddr};
use std::sync::{Arc, OnceLock};
use std::time::{Duration, Instant};

use axum::http::{HeaderName, HeaderValue, Method, Request, header};
use http_body_util::{BodyExt, Full, Limited};
use hyper::body::Bytes;
use hyper_util::rt::TokioIo;
use lumbo_deliver::guard::{self, GuardError, Target};
use tokio::io::{AsyncRead, AsyncWrite};
use tokio::net::TcpStream;
use tokio_rustls::TlsConnector;
use tokio_rustls::rustls::pki_types::ServerName;
use tokio_rustls::rustls::{ClientConfig, RootCertStore};

/// How long a request may take, from looking the name up to the answer's end.
const TIME: Duration = Duration::from_secs(15);
/// Most of an answer that is read, bytes.
const READ: usize = 256 * 1024;

/// What came back.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(crate) struct Answer {
    /// HTTP status.
    pub(crate) status: u16,
    /// `Retry-After`, as it was sent.
    pub(crate) retry_after: Option<String>,
    /// Its text; empty where it is longer than is read.
    pub(crate) text: String,
}

/// Why nothing came back.
#[derive(Debug, thiserror::Error)]
pub(crate) enum OutgoingError {
    /// It is not called from here.
    #[error("{0}")]
    Guard(#[from] GuardError),
    /// The name is not known.
    #[error("the name {0} is not known")]
    Name(String),
    /// No connection.
    #[error("no connection: {0}")]
    Connection(String),
    /// The certificate is not good.
    #[error("no secure connection: {0}")]
    Tls(String),
    /// It broke off.
    #[error("the connection broke off: {0}")]
    Broken(String),
    /// It took too long.
    #[error("no answer within {} seconds", TIME.as_secs())]
    Late,
}

/// Makes requests.
#[derive(Clone)]
pub(crate) struct Outgoing {
    /// Made at the first request over https: reading the authorities' certificates would hold every start up.
    tls: Arc<OnceLock<TlsConnector>>,
    allowed: Arc<[String]>,
}

impl Outgoing {
    /// `allowed` are hosts with their ports that may be private and speak plain http.
    pub(crate) fn new(allowed: &[String]) -> Self {
        Self { tls: Arc::default(), allowed: allowed.into() }
    }

    /// What speaks TLS, trusting the authorities that this machine trusts.
    fn tls() -> TlsConnector {
        let mut roots = RootCertStore::empty();
        let found = rustls_native_certs::load_native_certs();
        for error in &found.errors {
            tracing::warn!(%error, "certificates of authorities could not all be read");
        }
        let (_, unreadable) = roots.add_parsable_certificates(found.certs);
        if unreadable > 0 {
            tracing::warn!(unreadable, "certificates of authorities could not all be read");
        }
        let config = ClientConfig::builder().with_root_certificates(roots).with_no_client_auth();
        TlsConnector::from(Arc::new(config))
    }

    /// Looks at an address as it is written, before it is kept.
    pub(crate) fn check(&self, address: &str) -> Result<Target, GuardError> {
        guard::target(address, &self.allowed)
    }

    /// Posts a text and reads the answer; gives how long it took, too.
    pub(crate) async fn post(
        &self,
        address: &str,
        headers: &[(&'static str, String)],
        body: String,
    ) -> (Result<Answer, OutgoingError>, Duration) {
        self.request(Method::POST, address, headers, Some(body)).await
    }

    /// Makes a request and reads the answer; gives how long it took, too.
    pub(crate) async fn request(
        &self,
        method: Method,
        address: &str,
        headers: &[(&'static str, String)],
        body: Option<String>,
    ) -> (Result<Answer, OutgoingError>, Duration) {
        let begun = Instant::now();
        let done = match tokio::time::timeout(TIME, self.send(method, address, headers, body)).await {
            Ok(done) => done,
            Err(_) => Err(OutgoingError::Late),
        };
        (done, begun.elapsed())
    }

    async fn send(
        &self,
        method: Method,
        address: &str,
        headers: &[(&'static str, String)],
        body: Option<String>,
    ) -> Result<Answer, OutgoingError> {
        let target = self.check(address)?;
        let socket = TcpStream::connect(resolve(&target).await?)
            .await
            .map_err(|error| OutgoingError::Connection(error.to_string()))?;
        if target.tls {
            let name =
                ServerName::try_from(target.host.clone()).map_err(|error| OutgoingError::Tls(error.to_string()))?;
            let stream = self
                .tls
                .get_or_init(Self::tls)
                .connect(name, socket)
                .await
                .map_err(|error| OutgoingError::Tls(error.to_string()))?;
            exchange(stream, method, &target, headers, body).await
        } else {
            exchange(socket, method, &target, headers, body).await
        }
    }
}

/// The address to connect to: looked up once, and the one that is checked is the one that is used.
async fn resolve(target: &Target) -> Result<SocketAddr, OutgoingError> {
    if let Ok(address) = target.host.parse::<IpAddr>() {
        return public(target, [SocketAddr::new(address, target.port)]);
    }
    let found = tokio::net::lookup_host((target.host.as_str(), target.port))
        .await
        .map_err(|_| OutgoingError::Name(target.host.clone()))?;
    public(target, found)
}

fn public(target: &Target, found: impl IntoIterator<Item = SocketAddr>) -> Result<SocketAddr, OutgoingError> {
    let mut fits = found.into_iter().filter(|address| target.allowed || guard::is_public(address.ip()));
    fits.next().ok_or(OutgoingError::Guard(GuardError::Private))
}

async fn exchange<S>(
    stream: S,
    method: Method,
    target: &Target,
    headers: &[(&'static str, String)],
    body: Option<String>,
) -> Result<Answer, OutgoingError>
where
    S: AsyncRead + AsyncWrite + Unpin + Send + 'static,
{
    let broken = |error: hyper::Error| OutgoingError::Broken(error.to_string());
    let (mut sender, connection) = hyper::client::conn::http1::handshake(TokioIo::new(stream)).await.map_err(broken)?;
    let driving = tokio::spawn(connection);
    let path = target
        .url
        .query()
        .map_or_else(|| target.url.path().to_owned(), |query| format!("{}?{query}", target.url.path()));
    let usual = if target.tls { 443 } else { 80 };
    // With brackets around an IPv6 address.
    let name = target.url.host_str().unwrap_or(&target.host);
    let host = if target.port == usual { name.to_owned() } else { format!("{name}:{}", target.port) };
    let mut request = Request::builder()
        .method(method)
        .uri(path)
        .header(header::HOST, host)
        .header(header::USER_AGENT, concat!("Lumbo/", env!("CARGO_PKG_VERSION")))
        .header(header::ACCEPT, "application/json");
    if body.is_some() && !headers.iter().any(|(name, _)| *name == header::CONTENT_TYPE.as_str()) {
        request = request.header(header::CONTENT_TYPE, "application/json");
    }
    for (name, value) in headers {
        if let Ok(value) = HeaderValue::from_str(value) {
            request = request.header(HeaderName::from_static(name), value);
        }
    }
    let request = request
        .body(Full::new(Bytes::from(body.unwrap_or_default())))
        .map_err(|error| OutgoingError::Broken(error.to_string()))?;
    let answer = sender.send_request(request).await.map_err(broken)?;
    let status = answer.status().as_u16();
    let retry_after =
        answer.headers().get(header::RETRY_AFTER).and_then(|value| value.to_str().ok()).map(str::to_owned);
    // One that is longer than we read, or breaks off, is an answer all the same: its status has come.
    let text = Limited::new(answer.into_body(), READ)
        .collect()
        .await
        .map_or_else(|_| String::new(), |body| String::from_utf8_lossy(&body.to_bytes()).into_owned());
    driving.abort();
    Ok(Answer { status, retry_after, text })
}

#[cfg(test)]
#[allow(clippy::unwrap_used, reason = "tests")]
mod tests {
    use super::*;
    use rcgen::{BasicConstraints, CertificateParams, CertifiedIssuer, IsCa, KeyPair, date_time_ymd};
    use tokio_rustls::TlsAcceptor;
    use tokio_rustls::rustls::ServerConfig;
    use tokio_rustls::rustls::pki_types::PrivateKeyDer;

    type Authority = CertifiedIssuer<'static, KeyPair>;

    /// An authority that only this test trusts.
    fn authority() -> Authority {
        let mut authority = CertificateParams::new(Vec::new()).unwrap();
        authority.is_ca = IsCa::Ca(BasicConstraints::Unconstrained);
        CertifiedIssuer::self_signed(authority, KeyPair::generate().unwrap()).unwrap()
    }

    /// A server on this machine that shows a certificate and answers every request; gives its port.
    async fn shows(authority: &Authority, name: &str, until: i32) -> u16 {
        let mut leaf = CertificateParams::new(vec![name.to_owned()]).unwrap();
        (leaf.not_before, leaf.not_after) = (date_time_ymd(2020, 1, 1), date_time_ymd(until, 1, 1));
        let key = KeyPair::generate().unwrap();
        let certificate = leaf.signed_by(&key, authority).unwrap();
        let key = PrivateKeyDer::try_from(key.serialize_der()).unwrap();
        let config = ServerConfig::builder()
            .with_no_client_auth()
            .with_single_cert(vec![certificate.der().clone()], key)
            .unwrap();
        let listener = tokio::net::TcpListener::bind("127.0.0.1:0").await.unwrap();
        let port = listener.local_addr().unwrap().port();
        tokio::spawn(async move {
            use tokio::io::{AsyncReadExt, AsyncWriteExt};
            while let Ok((socket, _)) = listener.accept().await {
                let Ok(mut stream) = TlsAcceptor::from(Arc::new(config.clone())).accept(socket).await else { continue };
                let mut asked = [0_u8; 2_048];
                let _ = stream.read(&mut asked).await;
                let _ = stream.write_all(b"HTTP/1.1 200 OK\r\ncontent-length: 2\r\n\r\nok").await;
            }
        });
        port
    }

    /// Trusts an authority, and may call this machine's ports.
    fn trusting(authority: &Authority, ports: &[u16]) -> Outgoing {
        let mut roots = RootCertStore::empty();
        roots.add(authority.der().clone()).unwrap();
        let config = ClientConfig::builder().with_root_certificates(roots).with_no_client_auth();
        let allowed: Vec<String> = ports.iter().map(|port| format!("127.0.0.1:{port}")).collect();
        let outgoing = Outgoing::new(&allowed);
        assert!(outgoing.tls.set(TlsConnector::from(Arc::new(config))).is_ok());
        outgoing
    }

    #[tokio::test]
    async fn a_wrong_name_an_expired_certificate_and_a_strange_authority_are_refused() {
        let (known, strange) = (authority(), authority());
        let good = shows(&known, "127.0.0.1", 2100).await;
        let others = [
            ("another name", shows(&known, "elsewhere.example", 2100).await),
            ("expired", shows(&known, "127.0.0.1", 2021).await),
            ("an authority that nobody here trusts", shows(&strange, "127.0.0.1", 2100).await),
        ];
        let mut ports = vec![good];
        ports.extend(others.map(|(_, port)| port));
        let outgoing = trusting(&known, &ports);
        let (answer, _) = outgoing.post(&format!("https://127.0.0.1:{good}/"), &[], "{}".into()).await;
        assert_eq!(answer.unwrap().text, "ok");
        for (what, port) in others {
            let (refused, _) = outgoing.post(&format!("https://127.0.0.1:{port}/"), &[], "{}".into()).await;
            assert!(matches!(refused, Err(OutgoingError::Tls(_))), "{what}: {refused:?}");
        }
    }

    #[tokio::test]
    async fn a_name_that_leads_to_this_machine_is_refused_though_its_look_is_public() {
        // A name that the machine itself resolves to loopback, as any name somebody controls can.
        let target = Target {
            url: "https://inner.example/".parse().unwrap_or_else(|_| unreachable!()),
            host: "inner.example".into(),
            port: 443,
            tls: true,
            allowed: false,
        };
        let loopback = [SocketAddr::from(([127, 0, 0, 1], 443)), SocketAddr::from(([10, 0, 0, 1], 443))];
        assert!(matches!(public(&target, loopback), Err(OutgoingError::Guard(GuardError::Private))));
        let mixed = [SocketAddr::from(([127, 0, 0, 1], 443)), SocketAddr::from(([8, 8, 8, 8], 443))];
        assert_eq!(public(&target, mixed).ok(), Some(mixed[1]), "the public one is the one connected to");
    }

    #[tokio::test]
    async fn a_private_address_is_never_connected_to() {
        let outgoing = Outgoing::new(&[]);
        let (done, _) = outgoing.post("https://169.254.169.254/latest", &[], "{}".into()).await;
        assert!(matches!(done, Err(OutgoingError::Guard(GuardError::Private))), "{done:?}");
    }
}
