//! Answers that are no JSON of ours, with what they are in the document.

use std::marker::PhantomData;

use aide::OperationOutput;
use aide::generate::GenContext;
use aide::openapi::{MediaType, Operation, Response as Described, SchemaObject};
use axum::response::{IntoResponse, Response};

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
