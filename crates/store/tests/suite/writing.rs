//! Mails that people write from a lead, saved replies, what contacts permit, and their tags.
#![allow(clippy::unwrap_used, clippy::panic, reason = "helpers of tests are tests")]

use std::collections::BTreeMap;

use crate::common::{Fixture, demo};
use jiff::SignedDuration;
use lumbo_records::LeadStatus;
use lumbo_store::{Ended, JobKind, LEAVES_AFTER, LeadDetail, PermissionChange, Person, SavedReply, StoreError};
use lumbo_value::permits::{Channel, Purpose};
use uuid::Uuid;

/// A lead of Maud's, as its owner sees it, with its owner.
async fn filed(fixture: &Fixture) -> (LeadDetail, Person) {
    fixture.lead(b"a").await;
    let id = fixture.leads(&fixture.home.author).await[0].id;
    for rep in &fixture.home.reps {
        let lead = fixture.store.lead(rep, id).await.unwrap();
        if lead.row.mine {
            return (lead, rep.clone());
        }
    }
    panic!("the lead is nobody's");
}

async fn write(fixture: &Fixture, rep: &Person, lead: Uuid, id: Uuid) -> Result<LeadDetail, StoreError> {
    fixture.store.write_mail(rep, lead, id, "Your price", "Hello Maud,\n\nit is 40 pounds.").await
}

/// Ids of mails whose jobs are due, with the jobs ended.
async fn leaving(fixture: &Fixture) -> Vec<Uuid> {
    let jobs = fixture.store.take_jobs(&[JobKind::Mail], 10).await.unwrap();
    for job in &jobs {
        fixture.store.end_job(job, Ended::Done, 0.5).await.unwrap();
    }
    jobs.into_iter().map(|job| job.subject).collect()
}

#[tokio::test]
async fn a_mail_waits_leaves_once_and_is_the_first_contact() {
    let fixture = Fixture::new().await;
    let (store, home) = (&fixture.store, &fixture.home);
    let (lead, rep) = filed(&fixture).await;
    let id = Uuid::now_v7();
    let written = write(&fixture, &rep, lead.row.id, id).await.unwrap();
    assert_eq!((written.mails.len(), written.mails[0].state.as_str(), written.mails[0].mine), (1, "waiting", true));
    assert_eq!(written.mails[0].recipient, "maud@ekstromberries.example");
    // Asked for again, as a browser does that saw no answer.
    assert_eq!(write(&fixture, &rep, lead.row.id, id).await.unwrap().mails.len(), 1);
    assert!(leaving(&fixture).await.is_empty(), "it can be taken back still");
    fixture.clock.advance(LEAVES_AFTER);
    assert_eq!(leaving(&fixture).await, [id]);
    let out = store.mail_to_send(home.workspace, id).await.unwrap().unwrap();
    assert_eq!((out.name.as_str(), out.reply_to.as_deref()), (rep.name.as_str(), Some(rep.email.as_str())));
    assert!(store.mail_to_send(fixture.other.workspace, id).await.unwrap().is_none());
    store.mail_left(home.workspace, id).await.unwrap();
    // A job that is done again after a crash finds nothing to do.
    assert!(store.mail_to_send(home.workspace, id).await.unwrap().is_none());
    store.mail_left(home.workspace, id).await.unwrap();
    let left = store.lead(&rep, lead.row.id).await.unwrap();
    assert_eq!((left.row.status, left.row.tries), (LeadStatus::Trying, 0));
    assert!(left.first_contact_minutes.is_some() && left.first_try_minutes.is_none());
    assert_eq!(left.log.iter().filter(|line| line.what == "Wrote “Your price”").count(), 1);
    assert_eq!(left.mails[0].state, "sent");
    let late = store.take_mail_back(&rep, lead.row.id, id).await;
    assert!(matches!(late, Err(StoreError::NotFound(_))), "{late:?}");
}

#[tokio::test]
async fn a_mail_is_taken_back_by_whoever_wrote_it_and_one_that_was_refused_says_so() {
    let fixture = Fixture::new().await;
    let (store, home) = (&fixture.store, &fixture.home);
    let (lead, rep) = filed(&fixture).await;
    let (one, other) = (Uuid::now_v7(), Uuid::now_v7());
    write(&fixture, &rep, lead.row.id, one).await.unwrap();
    let theirs = store.take_mail_back(&home.author, lead.row.id, one).await;
    assert!(matches!(theirs, Err(StoreError::NotFound(_))), "{theirs:?}");
    assert!(store.take_mail_back(&rep, lead.row.id, one).await.unwrap().mails.is_empty());
    // A browser that saw no answer asks once more: it stays taken back.
    assert!(write(&fixture, &rep, lead.row.id, one).await.unwrap().mails.is_empty());
    write(&fixture, &rep, lead.row.id, other).await.unwrap();
    fixture.clock.advance(SignedDuration::from_mins(1));
    leaving(&fixture).await;
    assert!(store.mail_to_send(home.workspace, one).await.unwrap().is_none());
    store.mail_refused(home.workspace, other, "550 no such mailbox").await.unwrap();
    let refused = store.lead(&rep, lead.row.id).await.unwrap();
    assert_eq!((refused.mails[0].state.as_str(), refused.mails[0].answer.as_str()), ("refused", "550 no such mailbox"));
    assert_eq!((refused.row.status, refused.first_contact_minutes), (LeadStatus::New, None));
    // Twenty of a day at most.
    for _ in 0..19 {
        write(&fixture, &rep, lead.row.id, Uuid::now_v7()).await.unwrap();
    }
    let many = write(&fixture, &rep, lead.row.id, Uuid::now_v7()).await;
    assert!(matches!(&many, Err(StoreError::Conflict(says)) if says.contains("tomorrow")), "{many:?}");
}

#[tokio::test]
async fn nobody_writes_to_those_who_want_no_mail_or_withdrew_it() {
    let fixture = Fixture::new().await;
    let store = &fixture.store;
    let (lead, rep) = filed(&fixture).await;
    let stopped = async || store.begin_mail(&rep, lead.row.id).await.unwrap().stopped;
    assert_eq!(stopped().await, None);
    store.change_reach(&rep, lead.contact, None, &[Channel::Mail]).await.unwrap();
    assert_eq!(stopped().await.as_deref(), Some("they want no mail"));
    let refused = write(&fixture, &rep, lead.row.id, Uuid::now_v7()).await;
    assert!(matches!(&refused, Err(StoreError::Conflict(says)) if says.contains("want no mail")), "{refused:?}");
    store.change_reach(&rep, lead.contact, None, &[]).await.unwrap();
    let mut change =
        PermissionChange { purpose: Purpose::Enquiry, channel: Channel::Mail, given: true, says: "At a fair".into() };
    store.change_permission(&rep, lead.contact, &change).await.unwrap();
    change.given = false;
    let contact = store.change_permission(&rep, lead.contact, &change).await.unwrap();
    assert_eq!(
        contact.permissions.iter().map(|row| (row.word.given, row.stands)).collect::<Vec<_>>(),
        [(false, true), (true, false)]
    );
    assert_eq!(contact.reach.withdrawn, [Channel::Mail]);
    assert_eq!(stopped().await.as_deref(), Some("they withdrew their permission to be written to"));
    let says = store.lead(&rep, lead.row.id).await.unwrap().log;
    assert!(says.iter().any(|line| line.what == "They permit no more mail for their enquiry"), "{says:?}");
    // What is so already, or was never permitted, is no change.
    assert_eq!(store.change_permission(&rep, lead.contact, &change).await.unwrap().permissions.len(), 2);
    change.channel = Channel::Text;
    assert_eq!(store.change_permission(&rep, lead.contact, &change).await.unwrap().permissions.len(), 2);
}

#[tokio::test]
async fn saved_replies_are_filled_with_what_is_known_and_two_people_do_not_write_over_each_other() {
    let fixture = Fixture::new().await;
    let store = &fixture.store;
    let (lead, rep) = filed(&fixture).await;
    let mut reply = SavedReply {
        id: Uuid::now_v7(),
        name: "Price".into(),
        subject: "Your {wants|storage}".into(),
        body: "Dear {name.given|all},\n{pallets} at {company}, {gone}.\n{me}".into(),
        revision: 0,
    };
    assert_eq!(store.put_reply(&rep, &reply).await.unwrap().len(), 1);
    let taken = store.put_reply(&rep, &SavedReply { id: Uuid::now_v7(), name: "PRICE".into(), ..reply.clone() }).await;
    assert!(matches!(&taken, Err(StoreError::Conflict(says)) if says.contains("another name")), "{taken:?}");
    reply.revision = 1;
    store.put_reply(&rep, &reply).await.unwrap();
    let stale = store.put_reply(&fixture.home.author, &reply).await;
    assert!(matches!(&stale, Err(StoreError::Conflict(says)) if says.contains("meanwhile")), "{stale:?}");
    let begun = store.begin_mail(&rep, lead.row.id).await.unwrap();
    assert_eq!(begun.recipient.as_deref(), Some("maud@ekstromberries.example"));
    let filled = &begun.replies[0];
    assert!(filled.body.starts_with("Dear Maud,\n250"), "{filled:?}");
    assert!(filled.body.contains("at Ekström Berries, ."), "{filled:?}");
    assert!(filled.body.ends_with(&rep.name), "{filled:?}");
    assert_eq!(filled.missing, ["gone"]);
    assert!(store.saved_replies(fixture.other.workspace).await.unwrap().is_empty());
    let theirs = store.drop_reply(&fixture.other.author, reply.id).await;
    assert!(matches!(theirs, Err(StoreError::NotFound(_))), "{theirs:?}");
    assert!(store.drop_reply(&rep, reply.id).await.unwrap().is_empty());
}

#[tokio::test]
async fn tags_of_a_contact_find_them_and_are_those_of_both_while_two_are_one() {
    let fixture = Fixture::new().await;
    let (store, home) = (&fixture.store, &fixture.home);
    let (lead, rep) = filed(&fixture).await;
    fixture.lead_of(b"b", "Maud Ekstrom", "Ekström Berries", "m.ekstrom@ekstromberries.example").await;
    let all = store.contacts(&home.author, "", None).await.unwrap().contacts;
    let other = all.iter().find(|contact| contact.id != lead.contact).unwrap().id;
    store.tag_contact(&rep, lead.contact, "Fair 2026", true).await.unwrap();
    store.tag_contact(&home.author, other, "fair 2026", true).await.unwrap();
    store.tag_contact(&home.author, other, "berries", true).await.unwrap();
    let found = async |search: &str| store.contacts(&home.author, search, None).await.unwrap().contacts.len();
    assert_eq!((found("#fair").await, found("#BERR").await, found("#fair_2").await), (2, 1, 0));
    let merged = store.merge_contacts(&home.author, lead.contact, other, &BTreeMap::new()).await.unwrap();
    assert_eq!(store.contact(&home.author, lead.contact).await.unwrap().tags, ["Fair 2026", "berries"]);
    let off = store.tag_contact(&home.author, lead.contact, "FAIR 2026", false).await.unwrap();
    assert_eq!(off.tags, ["berries"], "off both of them");
    store.undo_merge(&home.author, merged.merges[0].id).await.unwrap();
    assert!(store.contact(&home.author, lead.contact).await.unwrap().tags.is_empty());
    assert_eq!(store.contact(&home.author, other).await.unwrap().tags, ["berries"]);
    assert_eq!(store.tags(home.workspace).await.unwrap(), ["berries"]);
}

#[tokio::test]
async fn an_erasure_takes_mails_permissions_and_tags_with_it() {
    let fixture = Fixture::new().await;
    let (store, home) = (&fixture.store, &fixture.home);
    let (lead, rep) = filed(&fixture).await;
    write(&fixture, &rep, lead.row.id, Uuid::now_v7()).await.unwrap();
    store.tag_contact(&rep, lead.contact, "fair", true).await.unwrap();
    let change =
        PermissionChange { purpose: Purpose::Marketing, channel: Channel::Text, given: true, says: "By mail".into() };
    store.change_permission(&rep, lead.contact, &change).await.unwrap();
    let held = store.export_contact(&home.author, lead.contact).await.unwrap();
    assert_eq!((held.tags.as_slice(), held.leads[0].mails.len()), (&["fair".to_owned()][..], 1));
    assert_eq!((held.permissions[0].purpose, held.permissions[0].says.as_str()), ("marketing", "By mail"));
    store.erase_contact(&home.author, lead.contact).await.unwrap();
    for table in ["mails", "permissions"] {
        assert_eq!(fixture.count(table).await, 0, "{table}");
    }
    assert!(store.tags(home.workspace).await.unwrap().is_empty());
    // The job that was to send it finds nothing.
    fixture.clock.advance(LEAVES_AFTER);
    for id in leaving(&fixture).await {
        assert!(store.mail_to_send(home.workspace, id).await.unwrap().is_none());
    }
}

/// The demo's dialogue with a consent to mails asked first, on air beside it; gives its address.
async fn asks_for_consent(fixture: &Fixture) -> String {
    let (store, home) = (&fixture.store, &fixture.home);
    let mut file = serde_json::to_value(demo("consents")).unwrap();
    file["fields"].as_array_mut().unwrap().push(serde_json::json!({"id": "fld_news", "key": "news", "label": "News",
        "type": "consent", "record": "contact", "permits": {"purpose": "marketing", "channels": ["mail", "text"]}}));
    let ask = serde_json::json!({"kind": "ask", "id": "t_news", "field": "news",
        "say": {"text": {"en": "May we send you our prices now and then?"}}});
    file["sections"][0]["turns"].as_array_mut().unwrap().insert(0, ask);
    let file = serde_json::from_value(file).unwrap();
    let dialogue = store.create_dialogue(home.workspace, None, &file).await.unwrap();
    store.release(home.workspace, dialogue, None, 1, "first").await.unwrap();
    store.draft(home.workspace, dialogue).await.unwrap().slug
}

#[tokio::test]
async fn what_a_conversation_permits_is_kept_by_way_and_a_later_no_withdraws_it() {
    let fixture = Fixture::new().await;
    let (store, home) = (&fixture.store, &fixture.home);
    let slug = asks_for_consent(&fixture).await;
    let standing = async || {
        let contacts = store.contacts(&home.author, "", None).await.unwrap().contacts;
        assert_eq!(contacts.len(), 1);
        let contact = store.contact(&home.author, contacts[0].id).await.unwrap();
        let rows = contact.permissions.into_iter().filter(|row| row.stands);
        let mut rows: Vec<_> = rows.map(|row| (row.word.channel, row.word.given, row.wording)).collect();
        rows.sort_unstable();
        rows
    };
    let replies = |news: &'static str| {
        [
            news,
            "storage",
            "frozen",
            "no",
            "60",
            "later",
            "manager",
            "Ada Quarmby",
            "Ada Foods",
            "ada@ada.example",
            ">skip",
        ]
    };
    fixture.talk_at(&slug, b"first", &replies("yes")).await;
    assert_eq!(standing().await, [(Channel::Mail, true, Some(1)), (Channel::Text, true, Some(1))]);
    // A permission for news says nothing of their enquiry.
    let lead = fixture.leads(&home.author).await.remove(0);
    assert!(store.lead(&home.author, lead.id).await.unwrap().reach.withdrawn.is_empty());
    fixture.clock.advance(SignedDuration::from_hours(2));
    fixture.talk_at(&slug, b"second", &replies("no")).await;
    assert_eq!(standing().await, [(Channel::Mail, false, Some(1)), (Channel::Text, false, Some(1))]);
    assert_eq!(fixture.count("permissions").await, 4, "every word is kept");
}
