//! Mails that leave Lumbo: one set of lines, as a text part and as an HTML part, so that both say the same. What a
//! prospect typed is text in both and never markup, a header or a link.

use serde::{Deserialize, Serialize};

use crate::webhook::{Event, EventKind, LeadData};

/// Longest subject, characters.
const SUBJECT: usize = 150;

/// A part of a mail.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
pub enum Line {
    /// A paragraph; its line breaks stay.
    Text(String),
    /// What stands before what follows.
    Heading(String),
    /// A name and a value.
    Pair(String, String),
    /// Somewhere to go: its words and its address.
    Link(String, String),
    /// Something that was said, and by whom.
    Said(String, String),
}

/// A mail.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub struct Letter {
    /// Its subject, one line.
    pub subject: String,
    /// What it says.
    pub lines: Vec<Line>,
    /// Why it came, at its foot; empty where a person wrote it.
    pub foot: String,
}

fn escaped(text: &str) -> String {
    text.replace('&', "&amp;").replace('<', "&lt;").replace('>', "&gt;").replace('"', "&quot;").replace('\'', "&#39;")
}

/// One line of a text: what was typed makes no second header of a subject.
fn one_line(text: &str) -> String {
    text.split_whitespace().collect::<Vec<_>>().join(" ").chars().take(SUBJECT).collect()
}

/// Only what a mail can safely lead to.
fn safe(address: &str) -> bool {
    address.starts_with("https://") || address.starts_with("http://")
}

impl Letter {
    /// A letter of lines.
    #[must_use]
    pub fn new(subject: &str, lines: Vec<Line>, foot: &str) -> Self {
        Self { subject: one_line(subject), lines, foot: foot.to_owned() }
    }

    /// The text part.
    #[must_use]
    pub fn text(&self) -> String {
        let mut out = String::new();
        let mut before: Option<&Line> = None;
        for line in &self.lines {
            // Pairs, and what was said, stand one under the other; all else a line apart.
            let together = matches!(
                (before, line),
                (Some(Line::Pair(..) | Line::Heading(_)), Line::Pair(..))
                    | (Some(Line::Said(..) | Line::Heading(_)), Line::Said(..))
            );
            if before.is_some() && !together {
                out.push('\n');
            }
            match line {
                Line::Text(text) => out.push_str(text),
                Line::Heading(text) => out.push_str(&text.to_uppercase()),
                Line::Pair(name, value) => out.push_str(&format!("{name}: {value}")),
                Line::Link(words, address) => out.push_str(&format!("{words}: {address}")),
                Line::Said(who, text) => out.push_str(&format!("{who}: {}", text.replace('\n', "\n    "))),
            }
            out.push('\n');
            before = Some(line);
        }
        if !self.foot.is_empty() {
            out.push_str(&format!("\n-- \n{}\n", self.foot));
        }
        out
    }

    /// The HTML part, which reads by day and by night.
    #[must_use]
    pub fn html(&self) -> String {
        let mut out = String::from(
            "<!doctype html><html><head><meta charset=\"utf-8\"><meta name=\"color-scheme\" content=\"light dark\">\
             <meta name=\"supported-color-schemes\" content=\"light dark\"></head>\
             <body style=\"font:15px/1.5 system-ui,-apple-system,'Segoe UI',sans-serif;margin:0;padding:16px\">\
             <div style=\"max-width:36rem\">",
        );
        let broken = |text: &str| escaped(text).replace('\n', "<br>");
        let mut in_pairs = false;
        for line in &self.lines {
            if in_pairs != matches!(line, Line::Pair(..)) {
                out.push_str(if in_pairs { "</table>" } else { "<table style=\"border-collapse:collapse\">" });
                in_pairs = !in_pairs;
            }
            match line {
                Line::Text(text) => out.push_str(&format!("<p>{}</p>", broken(text))),
                Line::Heading(text) => {
                    out.push_str(&format!("<h2 style=\"font-size:15px;margin:20px 0 4px\">{}</h2>", escaped(text)));
                }
                Line::Pair(name, value) => out.push_str(&format!(
                    "<tr><td style=\"padding:1px 16px 1px 0;vertical-align:top;opacity:.7\">{}</td><td>{}</td></tr>",
                    escaped(name),
                    broken(value)
                )),
                Line::Link(words, address) if safe(address) => {
                    out.push_str(&format!("<p><a href=\"{}\">{}</a></p>", escaped(address), escaped(words)));
                }
                Line::Link(words, address) => {
                    out.push_str(&format!("<p>{}: {}</p>", escaped(words), escaped(address)));
                }
                Line::Said(who, text) => out.push_str(&format!(
                    "<p style=\"margin:2px 0\"><span style=\"opacity:.7\">{}</span> {}</p>",
                    escaped(who),
                    broken(text)
                )),
            }
        }
        if in_pairs {
            out.push_str("</table>");
        }
        if !self.foot.is_empty() {
            out.push_str(&format!("<p style=\"font-size:13px;opacity:.7\">{}</p>", escaped(&self.foot)));
        }
        out.push_str("</div></body></html>");
        out
    }
}

/// Who somebody is, in a line.
fn who(lead: &LeadData) -> String {
    match (&lead.name, &lead.company) {
        (Some(name), Some(company)) => format!("{name}, {company}"),
        (Some(one), None) | (None, Some(one)) => one.clone(),
        (None, None) => "Somebody".to_owned(),
    }
}

fn facts(lead: &LeadData) -> Vec<Line> {
    let band = lead.score.as_ref().map(|score| match &score.band {
        Some(band) => format!("{band}, {} points", score.total),
        None => format!("ruled out, {} points", score.total),
    });
    [
        ("Wants", Some(lead.wants.clone()).filter(|wants| !wants.is_empty())),
        ("Phone", lead.phone.clone()),
        ("E-mail", lead.email.clone()),
        ("Rank", band),
        ("Owner", lead.owner.as_ref().map(|owner| owner.name.clone())),
        ("Queue", lead.queue.clone()),
        ("Came from", lead.came.page.clone()),
    ]
    .into_iter()
    .filter_map(|(name, value)| Some(Line::Pair(name.to_owned(), value?)))
    .collect()
}

/// A lead as a mail to colleagues: who, what they want, how to reach them, and what was said.
#[must_use]
pub fn of_lead(event: &Event) -> Letter {
    let lead = &event.data;
    let foot = "Lumbo sends this because an administrator made a destination of this address.";
    if event.kind == EventKind::ContactErased {
        let lines = vec![
            Line::Text("Somebody was erased. Please delete the mails that you have about this lead.".to_owned()),
            Line::Link("The lead".to_owned(), lead.link.clone()),
        ];
        return Letter::new("Please delete what you have of a lead", lines, foot);
    }
    let who = who(lead);
    let what = match event.kind {
        EventKind::LeadFiled if lead.unfinished => format!("{who} left before the end"),
        EventKind::LeadFiled => format!("New lead: {who}"),
        EventKind::LeadUpdated => format!("Changed: {who}"),
        EventKind::LeadStatus | EventKind::ContactErased => format!("{who}: {}", lead.status.replace('_', " ")),
    };
    let subject = if lead.test { format!("Test: {what}") } else { what.clone() };
    let mut lines = vec![Line::Text(what)];
    lines.extend(facts(lead));
    lines.extend(lead.reason.iter().map(|reason| Line::Pair("Because".to_owned(), reason.clone())));
    lines.push(Line::Link("Open the lead".to_owned(), lead.link.clone()));
    if event.kind != EventKind::LeadStatus && !lead.transcript.is_empty() {
        lines.push(Line::Heading("What was said".to_owned()));
        lines.extend(lead.transcript.iter().map(|said| {
            let speaker = if said.who == "prospect" { lead.name.as_deref().unwrap_or("They") } else { "Dialogue" };
            Line::Said(speaker.to_owned(), said.text.clone())
        }));
    }
    Letter::new(&subject, lines, foot)
}

/// A notice about a lead as a mail to whoever is told: `what` happened, as the bell says it.
#[must_use]
pub fn of_notice(what: &str, lead: &LeadData) -> Letter {
    let subject = format!("{what}: {}", who(lead));
    let mut lines = vec![Line::Text(subject.clone())];
    lines.extend(facts(lead));
    lines.push(Line::Link("Open the lead".to_owned(), lead.link.clone()));
    Letter::new(&subject, lines, "You get this because you want mails about leads. Your account says which.")
}

/// What else somebody is told: a request, a destination that fails.
#[must_use]
pub fn of_other(what: &str, about: &str, link: &str) -> Letter {
    let lines = vec![Line::Text(format!("{what}: {about}")), Line::Link("Look at it".to_owned(), link.to_owned())];
    Letter::new(&format!("{what}: {about}"), lines, "You get this because you want mails. Your account says which.")
}

/// An invitation into a workspace.
#[must_use]
pub fn invitation(workspace: &str, by: Option<&str>, role: &str, link: &str) -> Letter {
    let from = by.map_or_else(String::new, |by| format!(" by {by}"));
    let lines = vec![
        Line::Text(format!("You are invited{from} to work in {workspace} with Lumbo, as {role}.")),
        Line::Link("Come in".to_owned(), link.to_owned()),
        Line::Text("The link counts once, for a week.".to_owned()),
    ];
    Letter::new(&format!("Your invitation to {workspace}"), lines, "If you expected none, leave it: nothing happens.")
}

/// A way to a new password.
#[must_use]
pub fn reset(link: &str) -> Letter {
    let lines = vec![
        Line::Text("Somebody, most likely you, asked for a new password for Lumbo.".to_owned()),
        Line::Link("Choose a new password".to_owned(), link.to_owned()),
        Line::Text("The link counts once, for an hour. Until you use it, your password stays as it is.".to_owned()),
    ];
    Letter::new("A new password for Lumbo", lines, "If it was not you, leave it: nothing happens.")
}

#[cfg(test)]
#[allow(clippy::unwrap_used, reason = "tests")]
mod tests {
    use super::*;
    use crate::webhook::{Said, Score};

    fn event() -> Event {
        Event {
            kind: EventKind::LeadFiled,
            timestamp: "2026-11-24T10:00:00Z".parse().unwrap(),
            data: LeadData {
                link: "https://lumbo.example/leads/1".into(),
                name: Some("Ana\r\nBcc: all@example.com".into()),
                wants: "<b>40</b> pallets".into(),
                phone: Some("+442079460018".into()),
                score: Some(Score { total: 82, band: Some("Hot".into()) }),
                status: "new".into(),
                transcript: vec![
                    Said { who: "dialogue".into(), text: "What do you need?".into() },
                    Said { who: "prospect".into(), text: "40 pallets,\n<script>alert(1)</script>".into() },
                ],
                ..LeadData::default()
            },
        }
    }

    #[test]
    fn both_parts_say_the_same_and_nothing_typed_is_a_header_or_markup() {
        let letter = of_lead(&event());
        assert_eq!(letter.subject, "New lead: Ana Bcc: all@example.com", "one line");
        let (text, html) = (letter.text(), letter.html());
        for words in ["+442079460018", "Hot, 82 points", "https://lumbo.example/leads/1", "What do you need?"] {
            assert!(text.contains(words) && html.contains(words), "{words}");
        }
        assert!(html.contains("&lt;b&gt;40&lt;/b&gt; pallets") && !html.contains("<script>"), "{html}");
        assert!(text.contains("40 pallets,\n    <script>alert(1)</script>"), "line breaks stay: {text}");
        assert_eq!(html.matches("<table").count(), html.matches("</table>").count());
    }

    #[test]
    fn a_test_says_so_and_an_erasure_names_nobody() {
        let mut test = event();
        test.data.test = true;
        assert!(of_lead(&test).subject.starts_with("Test: "));
        let mut erased = event();
        erased.kind = EventKind::ContactErased;
        let letter = of_lead(&erased);
        assert!(!letter.text().contains("Ana") && !letter.html().contains("pallets"));
        assert!(letter.text().contains("https://lumbo.example/leads/1"));
    }

    #[test]
    fn a_link_that_is_none_is_only_words() {
        let letter = Letter::new("x", vec![Line::Link("Go".into(), "javascript:alert(1)".into())], "f");
        assert!(!letter.html().contains("href"), "{}", letter.html());
        let link = invitation("Winterlode", Some("Solveig"), "a rep", "https://lumbo.example/join#abc");
        assert!(link.html().contains("href=\"https://lumbo.example/join#abc\""));
        assert_eq!(reset("https://lumbo.example/reset#x").subject, "A new password for Lumbo");
    }
}
