//! What a request brings: a JSON body, parts of its address, its query. Whatever of it cannot be read is a problem
//! document.

use aide::OperationInput;
use aide::generate::GenContext;
use aide::openapi::Operation;
use axum::Json;
use axum::body::Bytes;
use axum::extract::{FromRequest, FromRequestParts, Request};
use axum::http::request::Parts;
use axum::http::{HeaderMap, StatusCode, header};
use schemars::JsonSchema;
use serde::de::DeserializeOwned;

use crate::{Problem, strict};

/// A JSON body.
pub struct Body<T>(pub T);

impl<T: DeserializeOwned, S: Send + Sync> FromRequest<S> for Body<T> {
    type Rejection = Problem;

    async fn from_request(request: Request, state: &S) -> Result<Self, Problem> {
        if !is_json(request.headers()) {
            return Err(Problem::new(
                StatusCode::UNSUPPORTED_MEDIA_TYPE,
                "not-json",
                "Send JSON, and say so: content-type: application/json.",
            ));
        }
        let text = Bytes::from_request(request, state).await.map_err(|error| match error.status() {
            StatusCode::PAYLOAD_TOO_LARGE => Problem::new(
                StatusCode::PAYLOAD_TOO_LARGE,
                "too-long",
                "That is more than we can take at once. Please send less.",
            ),
            _ => Problem::bad("The request broke off before its end. Send it again."),
        })?;
        let read = strict::from_slice(&text);
        read.map(Self).map_err(|error| Problem::bad(format!("The request could not be read: {error}.")))
    }
}

/// True where the request says that it brings JSON.
fn is_json(headers: &HeaderMap) -> bool {
    let kind = headers.get(header::CONTENT_TYPE).and_then(|kind| kind.to_str().ok()).unwrap_or_default();
    let kind = kind.split(';').next().unwrap_or_default().trim().to_ascii_lowercase();
    kind == "application/json" || kind.starts_with("application/") && kind.ends_with("+json")
}

impl<T: JsonSchema> OperationInput for Body<T> {
    fn operation_input(context: &mut GenContext, operation: &mut Operation) {
        Json::<T>::operation_input(context, operation);
    }
}

/// Parts of the address. What cannot be one, such as an id that is none, names nothing: not found.
pub struct Path<T>(pub T);

impl<T: DeserializeOwned + Send, S: Send + Sync> FromRequestParts<S> for Path<T> {
    type Rejection = Problem;

    async fn from_request_parts(parts: &mut Parts, state: &S) -> Result<Self, Problem> {
        let read = axum::extract::Path::<T>::from_request_parts(parts, state).await;
        read.map(|axum::extract::Path(path)| Self(path)).map_err(|_| Problem::no_address())
    }
}

impl<T: JsonSchema> OperationInput for Path<T> {
    fn operation_input(context: &mut GenContext, operation: &mut Operation) {
        axum::extract::Path::<T>::operation_input(context, operation);
    }
}

/// The query behind the address.
pub struct Query<T>(pub T);

impl<T: DeserializeOwned, S: Send + Sync> FromRequestParts<S> for Query<T> {
    type Rejection = Problem;

    async fn from_request_parts(parts: &mut Parts, state: &S) -> Result<Self, Problem> {
        match axum::extract::Query::<T>::from_request_parts(parts, state).await {
            Ok(axum::extract::Query(query)) => Ok(Self(query)),
            Err(error) => Err(Problem::bad(format!("The address could not be read: {}.", error.body_text()))),
        }
    }
}

impl<T: JsonSchema> OperationInput for Query<T> {
    fn operation_input(context: &mut GenContext, operation: &mut Operation) {
        axum::extract::Query::<T>::operation_input(context, operation);
    }
}
