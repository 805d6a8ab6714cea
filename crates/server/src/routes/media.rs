//! Pictures and documents: taken from authors, shown to authors and prospects.

use aide::axum::ApiRouter;
use aide::axum::routing::{get_with, post_with};
use axum::Json;
use axum::extract::State;
use axum::http::header;
use base64::Engine as _;
use lumbo_store::Medium;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use sha2::{Digest, Sha256};

use crate::answer::{Sent, Shown};
use crate::api::named;
use crate::body::{Body, Path};
use crate::signed::Writer;
use crate::{App, Problem, picture};

/// The name of this area in the document.
const TAG: &str = "Pictures and documents";

/// Pictures and documents of a workspace.
pub(crate) fn api() -> ApiRouter<App> {
    ApiRouter::new()
        .api_route("/api/media", post_with(add, named(TAG, "addMedium", "Keep a picture or document")))
        .api_route("/api/media/{hash}", get_with(of_workspace, named(TAG, "medium", "A picture or document")))
}

/// What a release shows, to prospects.
pub(crate) fn prospects_api() -> ApiRouter<App> {
    ApiRouter::new().api_route(
        "/api/p/{slug}/media/{hash}",
        get_with(of_release, named(TAG, "shownMedium", "A picture or document that a release shows")),
    )
}

/// Largest picture or document, bytes.
const MEDIUM_LIMIT: usize = 2 * 1024 * 1024;

/// Largest one as it is kept: written anew, a picture may have grown.
const KEPT_LIMIT: usize = 4 * MEDIUM_LIMIT;

/// A picture or document to keep.
#[derive(Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct NewMedium {
    /// Its bytes as base64: PNG, JPEG, GIF, WebP or PDF, 2 MB at most.
    content: String,
}

/// A picture or document that was kept.
#[derive(Serialize, JsonSchema)]
pub(crate) struct KeptMedium {
    /// SHA-256 of its content as it is kept, hexadecimal.
    hash: String,
    /// Its media type as it is kept: a photograph in WebP becomes a JPEG.
    media_type: String,
}

/// The media type that the first bytes say; what a sender claims is not looked at.
pub(super) fn media_type(content: &[u8]) -> Option<&'static str> {
    match content {
        [0x89, b'P', b'N', b'G', b'\r', b'\n', 0x1a, b'\n', ..] => Some("image/png"),
        [0xff, 0xd8, 0xff, ..] => Some("image/jpeg"),
        [b'G', b'I', b'F', b'8', b'7' | b'9', b'a', ..] => Some("image/gif"),
        [b'R', b'I', b'F', b'F', _, _, _, _, b'W', b'E', b'B', b'P', ..] => Some("image/webp"),
        [b'%', b'P', b'D', b'F', b'-', ..] => Some("application/pdf"),
        _ => None,
    }
}

pub(crate) async fn add(
    State(app): State<App>,
    Writer(person): Writer,
    Body(new): Body<NewMedium>,
) -> Result<Json<KeptMedium>, Problem> {
    let content = base64::engine::general_purpose::STANDARD
        .decode(&new.content)
        .map_err(|_| Problem::bad("The content is not base64."))?;
    if content.len() > MEDIUM_LIMIT {
        return Err(Problem::bad(format!(
            "A picture or document has at most 2 MB; this one has {:.1} MB.",
            content.len() as f64 / 1_048_576.0
        )));
    }
    let media_type = media_type(&content)
        .ok_or_else(|| Problem::bad("This is no PNG, JPEG, GIF or WebP picture and no PDF document."))?;
    let (media_type, content) = if media_type == "application/pdf" {
        (media_type, content)
    } else {
        let written = app.busy.work(move || picture::written_anew(media_type, &content)).await?;
        let written = written.map_err(|error| Problem::bad(crate::problem::sentence(&error.to_string())))?;
        (written.media_type, written.content)
    };
    if content.len() > KEPT_LIMIT {
        return Err(Problem::bad("This picture is too large once it is unpacked. Save it smaller and try again."));
    }
    let hash = hex::encode(Sha256::digest(&content));
    app.store
        .put_medium(person.workspace_id, person.id, &hash, &Medium { media_type: media_type.into(), content })
        .await?;
    Ok(Json(KeptMedium { hash, media_type: media_type.into() }))
}

/// A picture or document by the hash of its content.
#[derive(Deserialize, JsonSchema)]
pub(crate) struct HashPath {
    /// The hash.
    hash: String,
}

/// A hash and the dialogue's address.
#[derive(Deserialize, JsonSchema)]
pub(crate) struct SlugHashPath {
    /// The address.
    slug: String,
    /// The hash.
    hash: String,
}

/// Content never changes under its hash. Nothing in it may run.
pub(crate) fn shown(medium: Medium) -> Sent<Shown> {
    let headers = [
        (header::CONTENT_TYPE, medium.media_type),
        (header::CACHE_CONTROL, "private, max-age=31536000, immutable".to_owned()),
        (header::CONTENT_SECURITY_POLICY, "default-src 'none'; sandbox".to_owned()),
    ];
    Sent::new((headers, medium.content))
}

pub(crate) async fn of_workspace(
    State(app): State<App>,
    Writer(person): Writer,
    Path(path): Path<HashPath>,
) -> Result<Sent<Shown>, Problem> {
    Ok(shown(app.store.medium(person.workspace_id, &path.hash).await?))
}

pub(crate) async fn of_release(State(app): State<App>, Path(path): Path<SlugHashPath>) -> Result<Sent<Shown>, Problem> {
    Ok(shown(app.store.shown_medium(&path.slug, &path.hash).await?))
}

#[cfg(test)]
mod tests {
    use super::media_type;

    #[test]
    fn only_pictures_and_documents_are_taken_by_what_they_are() {
        for (content, kind) in [
            (&b"\x89PNG\r\n\x1a\nrest"[..], Some("image/png")),
            (b"\xff\xd8\xff\xe0", Some("image/jpeg")),
            (b"GIF89a", Some("image/gif")),
            (b"RIFF\0\0\0\0WEBPVP8 ", Some("image/webp")),
            (b"%PDF-1.7", Some("application/pdf")),
            (b"<svg onload=alert(1)>", None),
            (b"<html>", None),
            (b"", None),
        ] {
            assert_eq!(media_type(content), kind);
        }
    }
}
