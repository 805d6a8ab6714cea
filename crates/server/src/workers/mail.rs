//! Mails to people here: invitations, ways to a new password, what they are told. What a link holds is made when its
//! mail is sent, and only its SHA-256 is kept.

use lumbo_deliver::answer::Verdict;
use lumbo_deliver::mail::{Letter, Line, invitation, of_notice, of_other, reset};
use lumbo_store::{Ended, Job, MailedNotice, NoticeKind, StoreError};

use crate::outgoing::mail::Writer;
use crate::secret::link_secret;
use crate::tools::Tools;

/// Sends an invitation.
pub(super) async fn invite(tools: &Tools, job: &Job) -> Result<Ended, StoreError> {
    let (secret, hash) = link_secret();
    let Some(found) = tools.store.invitation_to_mail(job.workspace, job.subject, &hash).await? else {
        return Ok(Ended::Done);
    };
    let link = format!("{}/join#{secret}", tools.site.trim_end_matches('/'));
    let letter = invitation(&found.workspace, found.made_by.as_deref(), found.role.in_words(), &link);
    Ok(send(tools, job, &found.email, &letter).await)
}

/// Sends a way to a new password.
pub(super) async fn way_back(tools: &Tools, job: &Job) -> Result<Ended, StoreError> {
    let (secret, hash) = link_secret();
    let Some(email) = tools.store.reset_to_mail(job.subject, &hash).await? else { return Ok(Ended::Done) };
    let link = format!("{}/reset#{secret}", tools.site.trim_end_matches('/'));
    Ok(send(tools, job, &email, &reset(&link)).await)
}

/// Sends what somebody is told, where they want mails and it is news still.
pub(super) async fn notice(tools: &Tools, job: &Job) -> Result<Ended, StoreError> {
    let Some((email, kind, about)) = tools.store.notice_to_mail(job.workspace, job.subject).await? else {
        return Ok(Ended::Done);
    };
    let site = tools.site.trim_end_matches('/');
    let letter = match about {
        MailedNotice::Lead(lead) => {
            let facts = tools.store.lead_facts(job.workspace, lead, &tools.site).await?;
            of_notice(words(kind), &facts.data)
        }
        MailedNotice::Request(id, label) => of_other(words(kind), &label, &format!("{site}/requests/{id}")),
        MailedNotice::Task(lead, says) => of_other(words(kind), &says, &format!("{site}/leads/{lead}")),
        MailedNotice::Destination(name) => of_other(words(kind), &name, &format!("{site}/settings/destinations")),
    };
    Ok(send(tools, job, &email, &letter).await)
}

fn words(kind: NoticeKind) -> &'static str {
    match kind {
        NoticeKind::Yours => "A lead for you",
        NoticeKind::Offered => "Whoever takes it has it",
        NoticeKind::Late => "Nobody called in time",
        NoticeKind::Rose => "A better band",
        NoticeKind::Request => "A request",
        NoticeKind::Failing => "Nothing arrives any more",
        NoticeKind::Task => "A task is due",
    }
}

/// Sends a mail that somebody wrote from a lead, under their name; answers go to them.
pub(super) async fn from_lead(tools: &Tools, job: &Job) -> Result<Ended, StoreError> {
    let Some(out) = tools.store.mail_to_send(job.workspace, job.subject).await? else { return Ok(Ended::Done) };
    let letter = Letter::new(&out.subject, vec![Line::Text(out.body)], "");
    let by = Writer { name: &out.name, reply_to: out.reply_to.as_deref() };
    let mailed = tools.mailer.send_by(&out.recipient, &letter, &job.subject.simple().to_string(), Some(by)).await;
    match mailed.verdict {
        Verdict::Arrived => tools.store.mail_left(job.workspace, job.subject).await?,
        Verdict::Refused => tools.store.mail_refused(job.workspace, job.subject, &mailed.answer).await?,
        Verdict::Again(_) | Verdict::Unknown => return Ok(Ended::Failed(mailed.answer)),
    }
    Ok(Ended::Done)
}

async fn send(tools: &Tools, job: &Job, to: &str, letter: &Letter) -> Ended {
    let mailed = tools.mailer.send(to, letter, &job.subject.simple().to_string()).await;
    match mailed.verdict {
        Verdict::Arrived => Ended::Done,
        // Nobody has this address: asking again changes nothing.
        Verdict::Refused => {
            tracing::warn!(job = %job.id, code = mailed.code, "a mail was refused");
            Ended::Done
        }
        Verdict::Again(_) | Verdict::Unknown => Ended::Failed(mailed.answer),
    }
}
