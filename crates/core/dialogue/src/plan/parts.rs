//! Parts of what is said: lines, links, pictures, documents.

use super::ReadyPart;
use super::compile::Compiler;
use crate::file::{Link, Part};
use lumbo_value::text::Piece;

impl<'a> Compiler<'a> {
    pub(crate) fn link(&mut self, link: &Link, at: &str) -> (Vec<Piece>, String) {
        if !(link.url.starts_with("https://") || link.url.starts_with("http://")) {
            self.fault("link", at, format!("“{}” is not an http or https address", link.url));
        }
        (self.text(&link.label, at), link.url.clone())
    }

    pub(crate) fn part(&mut self, part: &Part, at: &str) -> ReadyPart {
        match part {
            Part::Line(wording) => ReadyPart::Line(self.wordings(wording, at)),
            Part::Picture(picture) => {
                self.medium(&picture.media, "picture", at);
                ReadyPart::Picture(picture.media.clone(), self.text(&picture.alt, at))
            }
            Part::Document(document) => {
                self.medium(&document.media, "document", at);
                ReadyPart::Document(document.media.clone(), self.text(&document.label, at))
            }
            Part::Link(link) => {
                let (label, url) = self.link(link, at);
                ReadyPart::Link(label, url)
            }
            Part::Beside(parts) => {
                if parts.is_empty()
                    || parts.len() > 6
                    || parts.iter().any(|part| matches!(part, Part::Beside(_) | Part::Line(_)))
                {
                    self.fault("text", at, "side by side stand 1 to 6 pictures, documents or links");
                }
                ReadyPart::Beside(
                    parts
                        .iter()
                        .filter(|part| !matches!(part, Part::Beside(_)))
                        .map(|part| self.part(part, at))
                        .collect(),
                )
            }
        }
    }

    pub(crate) fn medium(&mut self, hash: &str, what: &str, at: &str) {
        if !self.file.media.contains_key(hash) {
            self.fault("media", at, format!("this {what} was never uploaded here"));
        }
    }
}
