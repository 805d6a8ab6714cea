//! A simulated mailbox: an SMTP server that takes every mail, and a page that shows both parts of each and opens links.

use std::path::PathBuf;
use std::sync::{Arc, Mutex, PoisonError};

use axum::extract::{Form, State};
use axum::response::{Html, Redirect};
use axum::routing::{get, post};
use axum::{Json, Router};
use jiff::Timestamp;
use mail_parser::{HeaderName, MessageParser};
use serde::{Deserialize, Serialize};
use smtp_proto::request::receiver::{DataReceiver, RequestReceiver};
use smtp_proto::{Error, Request};
use tokio::io::{AsyncReadExt, AsyncWriteExt};
use tokio::net::{TcpListener, TcpStream};

use crate::faults::Faults;
use crate::page::{escaped, fault_form, frame};

/// Most mails that are kept, and the largest one, bytes.
const MOST: usize = 2_000;
const LARGEST: usize = 1024 * 1024;

/// A mail as it came.
#[derive(Debug, Clone, Serialize, Deserialize)]
pub struct Mail {
    /// When.
    pub at: Timestamp,
    /// Who it went to, by the envelope.
    pub to: Vec<String>,
    /// Its subject.
    pub subject: String,
    /// The text part.
    pub text: String,
    /// The HTML part.
    pub html: String,
    /// Message id and the headers that say what kind of mail it is.
    pub headers: Vec<(String, String)>,
}

#[derive(Default)]
struct Inner {
    mails: Vec<Mail>,
    file: Option<PathBuf>,
    faults: Faults,
}

/// The mailbox.
#[derive(Clone, Default)]
pub struct Mailbox(Arc<Mutex<Inner>>);

impl Mailbox {
    /// A mailbox with what was kept in a file, where one is named.
    #[must_use]
    pub fn read(file: Option<PathBuf>) -> Self {
        let text = file.as_ref().and_then(|file| std::fs::read_to_string(file).ok()).unwrap_or_default();
        let mails = serde_json::from_str(&text).unwrap_or_default();
        Self(Arc::new(Mutex::new(Inner { mails, file, faults: Faults::default() })))
    }

    fn with<T>(&self, with: impl FnOnce(&mut Inner) -> T) -> T {
        with(&mut self.0.lock().unwrap_or_else(PoisonError::into_inner))
    }

    /// What came, the first one first.
    #[must_use]
    pub fn mails(&self) -> Vec<Mail> {
        self.with(|inner| inner.mails.clone())
    }

    /// The next mails are answered with a code.
    pub fn fails(&self, next: u32, code: u16) {
        self.with(|inner| inner.faults = Faults { next, code, ..Faults::default() });
    }

    fn add(&self, to: Vec<String>, data: &[u8]) {
        let Some(message) = MessageParser::default().parse(data) else { return };
        let header = |name: &str| {
            let value = message.header_raw(HeaderName::parse(name)?)?;
            Some((name.to_owned(), value.trim().to_owned()))
        };
        let mail = Mail {
            at: Timestamp::now(),
            to,
            subject: message.subject().unwrap_or_default().to_owned(),
            text: message.body_text(0).unwrap_or_default().into_owned(),
            html: message.body_html(0).unwrap_or_default().into_owned(),
            headers: ["Message-ID", "Auto-Submitted", "From"].into_iter().filter_map(header).collect(),
        };
        self.with(|inner| {
            if inner.mails.len() >= MOST {
                inner.mails.remove(0);
            }
            inner.mails.push(mail);
            if let (Some(file), Ok(text)) = (&inner.file, serde_json::to_string(&inner.mails))
                && let Err(error) = std::fs::write(file, text)
            {
                eprintln!("the mailbox could not be kept: {error}");
            }
        });
    }

    /// Takes mails on a socket until the end.
    ///
    /// # Errors
    /// Where the socket fails.
    pub async fn serve(self, listener: TcpListener) -> std::io::Result<()> {
        loop {
            let (socket, _) = listener.accept().await?;
            let mailbox = self.clone();
            tokio::spawn(async move {
                // One that breaks off is the sender's affair.
                let _ = mailbox.talk(socket).await;
            });
        }
    }

    /// One conversation with a sender.
    async fn talk(&self, mut socket: TcpStream) -> std::io::Result<()> {
        socket.write_all(b"220 mailbox.example ready\r\n").await?;
        let mut requests = RequestReceiver::default();
        let mut data: Option<(DataReceiver, Vec<u8>)> = None;
        let mut to: Vec<String> = Vec::new();
        let mut buffer = [0_u8; 8 * 1024];
        loop {
            let read = socket.read(&mut buffer).await?;
            if read == 0 {
                return Ok(());
            }
            let mut bytes = buffer[..read].iter();
            while !bytes.as_slice().is_empty() {
                if let Some((receiver, mail)) = &mut data {
                    let whole = receiver.ingest(&mut bytes, mail);
                    if mail.len() > LARGEST {
                        return socket.write_all(b"552 too large\r\n").await;
                    }
                    if whole {
                        let fault = self.with(|inner| inner.faults.next());
                        let mail = std::mem::take(mail);
                        data = None;
                        if fault.code.is_none() || fault.after {
                            self.add(std::mem::take(&mut to), &mail);
                        }
                        let answer = match fault.code {
                            Some(code) => format!("{code} the stand-in was told to answer this\r\n"),
                            None => "250 taken\r\n".to_owned(),
                        };
                        socket.write_all(answer.as_bytes()).await?;
                    }
                    continue;
                }
                let answer: &[u8] = match requests.ingest(&mut bytes) {
                    Ok(Request::Ehlo { .. }) => b"250-mailbox.example\r\n250-8BITMIME\r\n250 SMTPUTF8\r\n",
                    Ok(Request::Helo { .. } | Request::Mail { .. } | Request::Noop { .. }) => b"250 fine\r\n",
                    Ok(Request::Rcpt { to: one }) => {
                        to.push(one.address.into_owned());
                        b"250 fine\r\n"
                    }
                    Ok(Request::Rset) => {
                        to.clear();
                        b"250 fine\r\n"
                    }
                    Ok(Request::Data) => {
                        data = Some((DataReceiver::new(), Vec::new()));
                        b"354 go on\r\n"
                    }
                    Ok(Request::Quit) => return socket.write_all(b"221 bye\r\n").await,
                    Err(Error::NeedsMoreData { .. }) => break,
                    Ok(_) | Err(_) => b"500 not here\r\n",
                };
                socket.write_all(answer).await?;
            }
        }
    }

    /// Its page.
    pub(crate) fn router(self) -> Router {
        Router::new()
            .route("/mailbox", get(|State(mailbox): State<Self>| async move { Html(mailbox.page()) }))
            .route("/mailbox/all.json", get(|State(mailbox): State<Self>| async move { Json(mailbox.mails()) }))
            .route("/mailbox/faults", post(set_faults))
            .route("/mailbox/clear", post(clear))
            .with_state(self)
    }

    fn page(&self) -> String {
        let forms = self.with(|inner| fault_form("/mailbox/faults", &inner.faults, true));
        let rows: String = self
            .mails()
            .iter()
            .rev()
            .take(100)
            .map(|mail| {
                // The HTML part in a frame that runs nothing: links open in a window of their own.
                format!(
                    "<article><b>{}</b> <small>to {} · {}</small><details open><summary>As it reads</summary>\
                     <iframe sandbox=\"allow-popups allow-popups-to-escape-sandbox\" title=\"{}\" \
                     style=\"width:100%;height:22rem;border:1px solid #d5dbe3\" srcdoc=\"{}\"></iframe></details>\
                     <details><summary>Text part</summary><pre>{}</pre></details></article>",
                    escaped(&mail.subject),
                    escaped(&mail.to.join(", ")),
                    mail.at.strftime("%F %T UTC"),
                    escaped(&mail.subject),
                    escaped(&mail.html.replace("<a href=", "<a target=_blank href=")),
                    linked(&mail.text),
                )
            })
            .collect();
        let rows = if rows.is_empty() { "<p>No mail yet.</p>".to_owned() } else { rows };
        let clear = "<form method=post action=/mailbox/clear><button>Forget everything</button></form>";
        frame(
            "Mailbox",
            "A simulated mailbox: every mail that Lumbo sends arrives here.",
            &format!("{forms}{clear}{rows}"),
        )
    }
}

/// A text with its addresses as links.
fn linked(text: &str) -> String {
    let mut out = String::new();
    for (place, word) in text.split(' ').enumerate() {
        if place > 0 {
            out.push(' ');
        }
        let (address, rest) = word.split_at(word.find(['\n', '\r']).unwrap_or(word.len()));
        if address.starts_with("http://") || address.starts_with("https://") {
            out.push_str(&format!("<a href=\"{0}\">{0}</a>{1}", escaped(address), escaped(rest)));
        } else {
            out.push_str(&escaped(word));
        }
    }
    out
}

async fn set_faults(State(mailbox): State<Mailbox>, Form(faults): Form<Faults>) -> Redirect {
    mailbox.with(|inner| inner.faults = faults);
    Redirect::to("/mailbox")
}

async fn clear(State(mailbox): State<Mailbox>) -> Redirect {
    mailbox.with(|inner| {
        inner.mails.clear();
        if let Some(file) = &inner.file {
            let _ = std::fs::remove_file(file);
        }
    });
    Redirect::to("/mailbox")
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_mail_is_shown_as_text_and_its_links_are_links() {
        let mailbox = Mailbox::default();
        let data = "Subject: =?utf-8?q?F=C3=BCr_dich?=\r\nMessage-ID: <1@x>\r\n\
            Content-Type: text/plain; charset=utf-8\r\n\r\nGo to https://lumbo.example/join#a\r\n<img src=x>\r\n";
        mailbox.add(vec!["ida@winterlode.example".into()], data.as_bytes());
        let mail = mailbox.mails().remove(0);
        assert_eq!((mail.subject.as_str(), mail.headers.len()), ("Für dich", 1));
        let page = mailbox.page();
        assert!(page.contains("<a href=\"https://lumbo.example/join#a\">") && !page.contains("<img"), "{page}");
    }
}
