//! Everything that is held on a contact, as a page that one can read and hand on.

use jiff::Timestamp;
use lumbo_deliver::mail::{Letter, Line};
use lumbo_dialogue::talk::Who;
use lumbo_store::{ContactExport, ExportedLead};

fn moment(at: Timestamp) -> String {
    at.strftime("%-d %B %Y, %H:%M UTC").to_string()
}

fn pair(name: &str, value: impl Into<String>) -> Line {
    Line::Pair(name.to_owned(), value.into())
}

/// The page: who they are, what is on file and where it came from, every lead with what was said and what happened.
pub(crate) fn page(held: &ContactExport) -> String {
    let mut lines = vec![
        Line::Heading(format!("What we hold about {}", held.name.as_deref().unwrap_or("you"))),
        Line::Text(format!("Taken out on {}.", moment(held.taken_out_at))),
    ];
    let who = [("Name", &held.name), ("E-mail", &held.email), ("Phone", &held.phone), ("Company", &held.company)];
    lines.extend(who.into_iter().filter_map(|(name, value)| Some(pair(name, value.clone()?))));
    if let Some(reach) = &held.reach {
        lines.push(pair("How to reach them", reach.clone()));
    }
    if !held.tags.is_empty() {
        lines.push(pair("Tags", held.tags.join(", ")));
    }
    if !held.permissions.is_empty() {
        lines.push(Line::Heading("What they permitted, and withdrew".to_owned()));
        for word in &held.permissions {
            let said = if word.given { "permitted" } else { "refused or withdrawn" };
            let how =
                [word.from.clone().unwrap_or_default(), word.says.clone()].into_iter().filter(|how| !how.is_empty());
            let how = how.chain(std::iter::once(moment(word.at))).collect::<Vec<_>>().join(", ");
            lines.push(pair(&format!("{} for {}", word.channel, word.purpose), format!("{said} ({how})")));
        }
    }
    if !held.values.is_empty() {
        lines.push(Line::Heading("On file".to_owned()));
        for value in &held.values {
            let from = value.from.as_ref().map_or_else(String::new, |from| format!(" from {from},"));
            lines.push(pair(&value.field, format!("{} ({}{})", value.value, from.trim_start(), moment(value.at))));
        }
    }
    if !held.also_given.is_empty() {
        lines.push(Line::Heading("Also given".to_owned()));
        for given in &held.also_given {
            let settled = match given.accepted {
                Some(true) => "put on file",
                Some(false) => "not put on file",
                None => "nobody has said yet",
            };
            lines.push(pair(&given.what, format!("{} ({settled}, {})", given.value, moment(given.at))));
        }
    }
    held.leads.iter().for_each(|lead| of_lead(lead, &mut lines));
    let foot = "Made by Lumbo from everything that is held on this person.";
    Letter::new("What is held", lines, foot).html()
}

fn of_lead(lead: &ExportedLead, lines: &mut Vec<Line>) {
    lines.push(Line::Heading(format!("{}, {}", lead.dialogue, moment(lead.filed_at))));
    lines.push(pair("Became", lead.status.replace('_', " ")));
    if !lead.tags.is_empty() {
        lines.push(pair("Tags", lead.tags.join(", ")));
    }
    for conversation in &lead.conversations {
        lines.extend(conversation.answers.iter().map(|answer| pair(&answer.label, answer.shown.clone())));
        lines.push(Line::Text(format!("What was said, up to {}:", moment(conversation.filed_at))));
        lines.extend(conversation.said.iter().map(|line| {
            let who = if line.who == Who::You { "They" } else { "We" };
            Line::Said(who.to_owned(), line.text.clone())
        }));
    }
    if !lead.timeline.is_empty() {
        lines.push(Line::Text("What happened since:".to_owned()));
        lines.extend(lead.timeline.iter().map(|step| {
            let by = step.by.as_deref().map_or_else(String::new, |by| format!(", {by}"));
            pair(&format!("{}{by}", moment(step.at)), step.what.clone())
        }));
    }
    for mail in &lead.mails {
        lines.push(Line::Text(format!("{} wrote to {}, {} ({}):", mail.by, mail.to, moment(mail.at), mail.state)));
        lines.push(Line::Said(mail.subject.clone(), mail.body.clone()));
    }
    for task in &lead.tasks {
        let done = if task.done_at.is_some() { "done" } else { "not done yet" };
        lines.push(pair("Task", format!("{} ({}, by {}, {done})", task.says, task.by, moment(task.due_at))));
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use lumbo_store::{ExportedMail, ExportedPermission};

    #[test]
    fn what_somebody_typed_is_text_on_the_page_and_never_markup() {
        let at: Timestamp = "2026-11-23T09:00:00Z".parse().unwrap_or_default();
        let held = ContactExport {
            format: "lumbo.contact/1",
            taken_out_at: at,
            name: Some("<b>Maud</b>".into()),
            email: Some("maud@ekstromberries.example".into()),
            phone: None,
            company: None,
            reach: Some("no calls".into()),
            tags: vec!["berries".into()],
            permissions: vec![ExportedPermission {
                purpose: "marketing",
                channel: "mail",
                given: false,
                at,
                from: Some("Priya".into()),
                wording: None,
                says: "on the phone".into(),
            }],
            values: Vec::new(),
            also_given: Vec::new(),
            leads: vec![ExportedLead {
                dialogue: "Storage enquiry".into(),
                filed_at: at,
                status: "not_a_fit".into(),
                tags: vec!["fair".into()],
                zone: None,
                conversations: Vec::new(),
                timeline: Vec::new(),
                mails: vec![ExportedMail {
                    at,
                    by: "Priya".into(),
                    to: "maud@ekstromberries.example".into(),
                    subject: "Your <price>".into(),
                    body: "Hello".into(),
                    state: "sent".into(),
                }],
                tasks: Vec::new(),
            }],
        };
        let page = page(&held);
        assert!(page.contains("What we hold about &lt;b&gt;Maud&lt;/b&gt;") && !page.contains("<b>"), "{page}");
        for words in ["berries", "refused or withdrawn (Priya, on the phone, ", "Your &lt;price&gt;"] {
            assert!(page.contains(words), "{words}: {page}");
        }
        for words in ["maud@ekstromberries.example", "no calls", "23 November 2026, 09:00 UTC", "not a fit", "fair"] {
            assert!(page.contains(words), "{words}");
        }
    }
}
