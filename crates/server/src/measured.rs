//! Metrics, in Prometheus' text format, on an address of their own: they say how much a firm does, which is nobody's
//! business on the address that prospects use.

use std::net::SocketAddr;
use std::sync::OnceLock;

use axum::Router;
use axum::http::header;
use axum::routing::get;
use metrics_exporter_prometheus::{Matcher, PrometheusBuilder, PrometheusHandle};
use tokio::sync::watch;

/// Upper bounds of the time that a request took, seconds. Histograms of many servers can be added up.
const SECONDS: [f64; 11] = [0.005, 0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1.0, 2.5, 5.0, 10.0];

/// What counts; the process has one.
fn counted() -> &'static PrometheusHandle {
    static COUNTED: OnceLock<PrometheusHandle> = OnceLock::new();
    COUNTED.get_or_init(|| {
        let build = || {
            PrometheusBuilder::new()
                .set_buckets_for_metric(Matcher::Suffix("_seconds".into()), &SECONDS)
                .unwrap_or_else(|_| PrometheusBuilder::new())
        };
        // Where something else counts in this process already, its figures are not ours to show.
        build().install_recorder().unwrap_or_else(|_| build().build_recorder().handle())
    })
}

/// What is read at `/metrics`.
pub(crate) fn router() -> Router {
    let read = || async { ([(header::CONTENT_TYPE, "text/plain; version=0.0.4; charset=utf-8")], counted().render()) };
    Router::new().route("/metrics", get(read))
}

/// Serves metrics until told to stop.
pub(crate) async fn serve(address: SocketAddr, mut stop: watch::Receiver<bool>) {
    counted();
    let listener = match tokio::net::TcpListener::bind(address).await {
        Ok(listener) => listener,
        Err(error) => {
            tracing::error!(%address, %error, "metrics cannot be listened on; the server goes on without them");
            return;
        }
    };
    let stopped = async move { while !*stop.borrow() && stop.changed().await.is_ok() {} };
    if let Err(error) = axum::serve(listener, router()).with_graceful_shutdown(stopped).await {
        tracing::warn!(%error, "metrics are not served any more");
    }
}

#[cfg(test)]
#[allow(clippy::unwrap_used, reason = "tests")]
mod tests {
    use super::*;
    use axum::body::Body;
    use axum::http::{Request, StatusCode};
    use http_body_util::BodyExt;
    use tower::ServiceExt;

    #[tokio::test]
    async fn times_are_histograms_that_can_be_added_up() {
        counted();
        metrics::histogram!("lumbo_request_seconds", "route" => "/of/this/test").record(0.03);
        let answer = router().oneshot(Request::get("/metrics").body(Body::empty()).unwrap()).await.unwrap();
        assert_eq!(answer.status(), StatusCode::OK);
        let body = answer.into_body().collect().await.unwrap().to_bytes();
        let text = String::from_utf8(body.to_vec()).unwrap();
        assert!(text.contains("# TYPE lumbo_request_seconds histogram"), "{text}");
        for (bound, count) in [("0.025", 0), ("0.05", 1), ("+Inf", 1)] {
            let line = format!("lumbo_request_seconds_bucket{{route=\"/of/this/test\",le=\"{bound}\"}} {count}");
            assert!(text.contains(&line), "{line} in {text}");
        }
    }
}
