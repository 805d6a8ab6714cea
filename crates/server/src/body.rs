//! A JSON body whose failures are problem documents.

use aide::OperationInput;
use aide::generate::GenContext;
use aide::openapi::Operation;
use axum::Json;
use axum::extract::rejection::JsonRejection;
use axum::extract::{FromRequest, Request};
use axum::http::StatusCode;
use schemars::JsonSchema;
use serde::de::DeserializeOwned;

use crate::Problem;

/// A JSON body.
pub struct Body<T>(pub T);

impl<T: DeserializeOwned, S: Send + Sync> FromRequest<S> for Body<T> {
    type Rejection = Problem;

    async fn from_request(request: Request, state: &S) -> Result<Self, Problem> {
        match Json::<T>::from_request(request, state).await {
            Ok(Json(body)) => Ok(Self(body)),
            Err(JsonRejection::BytesRejection(error)) if error.status() == StatusCode::PAYLOAD_TOO_LARGE => {
                Err(Problem::new(
                    StatusCode::PAYLOAD_TOO_LARGE,
                    "too-long",
                    "That is more than we can take at once. Please send less.",
                ))
            }
            Err(error) => Err(Problem::bad(format!("The request could not be read: {}", error.body_text()))),
        }
    }
}

impl<T: JsonSchema> OperationInput for Body<T> {
    fn operation_input(context: &mut GenContext, operation: &mut Operation) {
        Json::<T>::operation_input(context, operation);
    }
}
