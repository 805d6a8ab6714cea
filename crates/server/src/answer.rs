//! Answers that are no JSON of ours, with what they are in the document.

use std::marker::PhantomData;

use aide::OperationOutput;
use aide::generate::GenContext;
use aide::openapi::{MediaType, Operation, Response as Described, SchemaObject};
use axum::Json;
use axum::http::header;
use axum::response::{AppendHeaders, IntoResponse, Redirect, Response};
use schemars::JsonSchema;
use serde::Serialize;

/// A kind of content.
pub(crate) trait Content {
    /// Its media types.
    const TYPES: &'static [&'static str];
    /// What it is, for the document.
    const SAYS: &'static str;
}

/// The catalogue as a table.
pub(crate) struct Csv;

impl Content for Csv {
    const TYPES: &'static [&'static str] = &["text/csv"];
    const SAYS: &'static str = "The table";
}

/// A table as a spreadsheet.
pub(crate) struct Spreadsheet;

impl Content for Spreadsheet {
    const TYPES: &'static [&'static str] = &["application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"];
    const SAYS: &'static str = "The spreadsheet";
}

/// Everything that is held on a person.
pub(crate) struct Held;

impl Content for Held {
    const TYPES: &'static [&'static str] = &["application/json", "text/html"];
    const SAYS: &'static str = "The document";
}

/// A contact card, RFC 6350.
pub(crate) struct Card;

impl Content for Card {
    const TYPES: &'static [&'static str] = &["text/vcard"];
    const SAYS: &'static str = "The contact card";
}

/// A dialogue file.
pub(crate) struct DialogueFile;

impl Content for DialogueFile {
    const TYPES: &'static [&'static str] = &["application/json"];
    const SAYS: &'static str = "The dialogue file";
}

/// A picture or document.
pub(crate) struct Shown;

impl Content for Shown {
    const TYPES: &'static [&'static str] = &["image/png", "image/jpeg", "image/gif", "image/webp", "application/pdf"];
    const SAYS: &'static str = "The picture or document";
}

/// A drawing.
pub(crate) struct Drawn;

impl Content for Drawn {
    const TYPES: &'static [&'static str] = &["image/svg+xml"];
    const SAYS: &'static str = "The drawing";
}

/// Events as they happen.
pub(crate) struct LiveEvents;

impl Content for LiveEvents {
    const TYPES: &'static [&'static str] = &["text/event-stream"];
    const SAYS: &'static str =
        "Events: `changed` with topic and kind, `again` where everything of a topic is to be read again";
}

/// An answer of a kind of content.
pub(crate) struct Sent<C>(Response, PhantomData<C>);

impl<C> Sent<C> {
    pub(crate) fn new(answer: impl IntoResponse) -> Self {
        Self(answer.into_response(), PhantomData)
    }
}

impl<C> IntoResponse for Sent<C> {
    fn into_response(self) -> Response {
        self.0
    }
}

impl<C: Content> OperationOutput for Sent<C> {
    type Inner = Self;

    fn operation_response(context: &mut GenContext, _operation: &mut Operation) -> Option<Described> {
        let json_schema = context.schema.subschema_for::<serde_json::Value>();
        let schema = SchemaObject { json_schema, external_docs: None, example: None };
        let media = MediaType { schema: Some(schema), ..MediaType::default() };
        Some(Described {
            description: C::SAYS.into(),
            content: C::TYPES.iter().map(|kind| ((*kind).to_owned(), media.clone())).collect(),
            ..Described::default()
        })
    }

    fn inferred_responses(context: &mut GenContext, operation: &mut Operation) -> Vec<(Option<u16>, Described)> {
        Self::operation_response(context, operation).map(|answer| (Some(200), answer)).into_iter().collect()
    }
}

/// JSON with a cookie beside it.
pub(crate) struct WithCookie<T> {
    /// As it stands in the header.
    pub(crate) cookie: String,
    /// The answer.
    pub(crate) answer: T,
}

impl<T: Serialize> IntoResponse for WithCookie<T> {
    fn into_response(self) -> Response {
        (AppendHeaders([(header::SET_COOKIE, self.cookie)]), Json(self.answer)).into_response()
    }
}

impl<T: JsonSchema> OperationOutput for WithCookie<T> {
    type Inner = T;

    fn operation_response(context: &mut GenContext, operation: &mut Operation) -> Option<Described> {
        Json::<T>::operation_response(context, operation)
    }

    fn inferred_responses(context: &mut GenContext, operation: &mut Operation) -> Vec<(Option<u16>, Described)> {
        Json::<T>::inferred_responses(context, operation)
    }
}

/// Sends the browser to a page of our own, with a cookie.
pub(crate) struct GoOn {
    /// As it stands in the header.
    pub(crate) cookie: String,
    /// The page's path.
    pub(crate) to: String,
}

impl IntoResponse for GoOn {
    fn into_response(self) -> Response {
        (AppendHeaders([(header::SET_COOKIE, self.cookie)]), Redirect::to(&self.to)).into_response()
    }
}

impl OperationOutput for GoOn {
    type Inner = Self;

    fn operation_response(_context: &mut GenContext, _operation: &mut Operation) -> Option<Described> {
        Some(Described { description: "Sends the browser on".into(), ..Described::default() })
    }

    fn inferred_responses(context: &mut GenContext, operation: &mut Operation) -> Vec<(Option<u16>, Described)> {
        Self::operation_response(context, operation).map(|answer| (Some(303), answer)).into_iter().collect()
    }
}
