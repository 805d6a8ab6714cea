//! Two contacts that become one, and two again.

#![allow(clippy::unwrap_used, clippy::panic, reason = "helpers of tests are tests")]

use std::collections::BTreeMap;

use crate::common::Fixture;
use jiff::SignedDuration;
use lumbo_records::{Alike, AlsoGiven, Takes};
use lumbo_store::{ContactChange, StoreError};
use lumbo_value::permits::Channel;
use sqlx::{Connection, PgConnection};
use uuid::Uuid;

/// Maud with a number, and Maude at the same firm with the same number, from another address; who stays, who goes.
async fn two(fixture: &Fixture) -> (Uuid, Uuid) {
    fixture.lead(b"one").await;
    let again = [
        "Blast freezing",
        "frozen",
        "yes",
        "250",
        "getting quotes",
        "Maude Ekstrom",
        "Ekström Berries",
        "m.ekstrom@ekstromberries.example",
        "020 7946 0588",
    ];
    fixture.clock.advance(SignedDuration::from_mins(5));
    fixture.talk(b"two", &again).await;
    let find = async |search: &str| {
        fixture.store.contacts(&fixture.home.author, search, None).await.unwrap().contacts.remove(0).id
    };
    (find("maud@").await, find("m.ekstrom@").await)
}

/// Who both are, what is on file of them, and whose their leads are, as text.
async fn on_file(fixture: &Fixture) -> String {
    let mut db = PgConnection::connect(&fixture.url).await.unwrap();
    let mut all = Vec::new();
    for query in [
        "select coalesce(string_agg(c::text, E'\\n' order by id), '') from contacts c where workspace_id = $1",
        "select coalesce(string_agg(v::text, E'\\n' order by record_id, field_id), '') from record_values v
         where workspace_id = $1",
        "select coalesce(string_agg(id::text || contact_id::text, E'\\n' order by id), '') from leads
         where workspace_id = $1",
        "select coalesce(string_agg(a::text, E'\\n' order by id), '') from also_given a where workspace_id = $1",
    ] {
        all.push(sqlx::query_scalar::<_, String>(query).bind(fixture.home.workspace).fetch_one(&mut db).await.unwrap());
    }
    all.join("\n\n")
}

async fn merge_of(fixture: &Fixture, contact: Uuid) -> Uuid {
    fixture.store.contact(&fixture.home.author, contact).await.unwrap().merges[0].id
}

#[tokio::test]
async fn contacts_that_may_be_one_are_proposed_with_why_and_never_made_one_by_themselves() {
    let fixture = Fixture::new().await;
    let (stays, goes) = two(&fixture).await;
    fixture.lead_of(b"three", "Lee Marsh", "Marsh Fish", "lee@marshfish.example").await;
    let alike = fixture.store.alike(&fixture.home.author, stays).await.unwrap();
    assert_eq!(alike.iter().map(|row| (row.id, row.why)).collect::<Vec<_>>(), [(goes, Alike::Phone)]);
    assert_eq!(fixture.store.contacts(&fixture.home.author, "", None).await.unwrap().contacts.len(), 3);
    assert!(matches!(fixture.store.alike(&fixture.other.author, stays).await, Err(StoreError::NotFound(_))));
}

#[tokio::test]
async fn a_merge_and_its_undo_leave_everything_as_it_was() {
    let fixture = Fixture::new().await;
    let (store, author) = (&fixture.store, &fixture.home.author);
    let (stays, goes) = two(&fixture).await;
    let before = on_file(&fixture).await;
    let chosen = BTreeMap::from([("@name".to_owned(), Takes::Goes), ("@email".to_owned(), Takes::Goes)]);
    let preview = store.merge_preview(author, stays, goes, &chosen).await.unwrap();
    assert_eq!(preview.leads, 1);
    let name = preview.lines.iter().find(|line| line.field == "@name").unwrap();
    assert_eq!((name.keeps, name.shown.as_str()), (Takes::Goes, "Maude Ekstrom"));
    let role = preview.lines.iter().find(|line| line.label == "Role").unwrap();
    assert_eq!((role.keeps, role.shown.as_str()), (Takes::Goes, "Gathering quotes"), "the newest by its policy");
    assert_eq!(on_file(&fixture).await, before, "looking changes nothing");
    let merged = store.merge_contacts(author, stays, goes, &chosen).await.unwrap();
    assert_eq!(
        (merged.name.as_deref(), merged.email.as_deref(), merged.leads.len(), merged.merges.len()),
        (Some("Maude Ekstrom"), Some("m.ekstrom@ekstromberries.example"), 2, 1)
    );
    assert!(matches!(store.contact(author, goes).await, Err(StoreError::NotFound(_))));
    assert_eq!(store.contacts(author, "", None).await.unwrap().contacts.len(), 1);
    assert!(store.alike(author, stays).await.unwrap().is_empty());
    let undone = store.undo_merge(author, merged.merges[0].id).await.unwrap();
    assert_eq!((undone.name.as_deref(), undone.leads.len(), undone.merges.len()), (Some("Maud Ekström"), 1, 0));
    assert_eq!(on_file(&fixture).await, before);
    assert!(matches!(store.undo_merge(author, merged.merges[0].id).await, Err(StoreError::NotFound(_))), "once");
}

#[tokio::test]
async fn what_was_changed_and_added_since_stays_where_it_is() {
    let fixture = Fixture::new().await;
    let (store, author) = (&fixture.store, &fixture.home.author);
    let (stays, goes) = two(&fixture).await;
    let chosen = BTreeMap::from([("@name".to_owned(), Takes::Goes)]);
    store.merge_contacts(author, stays, goes, &chosen).await.unwrap();
    let merge = merge_of(&fixture, stays).await;
    // A person corrects the name, and they come back with the address of the one that went.
    let change = ContactChange { what: AlsoGiven::Name, value: "Maud Ekström-Lind".into() };
    store.change_contact(author, stays, &change).await.unwrap();
    let lead = fixture.leads(author).await.into_iter().find(|lead| lead.name.as_deref() == Some("Maude Ekstrom"));
    let revision = store.lead(author, lead.as_ref().unwrap().id).await.unwrap().revision;
    let won = lumbo_store::OutcomeChange {
        revision,
        status: lumbo_records::LeadStatus::Won,
        reason: None,
        amount: None,
        currency: None,
        later_on: None,
    };
    store.change_outcome(author, lead.unwrap().id, &won).await.unwrap();
    fixture.lead_of(b"three", "Maude Ekstrom", "Ekström Berries", "M.Ekstrom@ekstromberries.example").await;
    assert_eq!(store.contacts(author, "", None).await.unwrap().contacts.len(), 1, "it is theirs");
    assert_eq!(store.contact(author, stays).await.unwrap().leads.len(), 2, "it joined the open one");
    let undone = store.undo_merge(author, merge).await.unwrap();
    assert_eq!(undone.name.as_deref(), Some("Maud Ekström-Lind"), "the correction stands");
    assert_eq!(undone.email.as_deref(), Some("maud@ekstromberries.example"));
    assert_eq!(store.contact(author, goes).await.unwrap().leads.len(), 1, "what moved went back");
    assert_eq!(undone.leads.len(), 1);
}

#[tokio::test]
async fn a_second_merge_takes_the_first_along_and_both_can_be_undone() {
    let fixture = Fixture::new().await;
    let (store, author) = (&fixture.store, &fixture.home.author);
    let (one, two) = two(&fixture).await;
    fixture.lead_of(b"three", "Maud E.", "Ekström Berries", "me@ekstromberries.example").await;
    let three = store.contacts(author, "me@", None).await.unwrap().contacts.remove(0).id;
    let before = on_file(&fixture).await;
    let none = BTreeMap::new();
    store.merge_contacts(author, one, two, &none).await.unwrap();
    fixture.clock.advance(SignedDuration::from_mins(5));
    store.merge_contacts(author, three, one, &none).await.unwrap();
    // The first address of all leads to the one that is left.
    fixture.lead_of(b"four", "Maude Ekstrom", "Ekström Berries", "m.ekstrom@ekstromberries.example").await;
    assert_eq!(store.contacts(author, "", None).await.unwrap().contacts.len(), 1);
    let merges = store.contact(author, three).await.unwrap().merges;
    assert_eq!(merges.len(), 2);
    assert_eq!(fixture.count("leads").await, 3, "it joined the newest open one");
    let mut db = PgConnection::connect(&fixture.url).await.unwrap();
    sqlx::query("delete from also_given").execute(&mut db).await.unwrap();
    store.undo_merge(author, merges[0].id).await.unwrap();
    let rest = store.contact(author, one).await.unwrap().merges;
    assert_eq!(rest.len(), 1, "the earlier one went back with it");
    store.undo_merge(author, rest[0].id).await.unwrap();
    assert_eq!(store.contacts(author, "", None).await.unwrap().contacts.len(), 3);
    let emails = |text: &str| text.matches("@ekstromberries.example").count();
    assert_eq!(emails(&on_file(&fixture).await), emails(&before));
}

#[tokio::test]
async fn erasing_either_blanks_the_merge_and_ends_its_undo() {
    let fixture = Fixture::new().await;
    let (store, author) = (&fixture.store, &fixture.home.author);
    let (stays, goes) = two(&fixture).await;
    store.merge_contacts(author, stays, goes, &BTreeMap::new()).await.unwrap();
    let merge = merge_of(&fixture, stays).await;
    let done = store.erase_contact(author, stays).await.unwrap();
    assert_eq!((done.leads, done.conversations), (2, 2));
    assert!(matches!(store.undo_merge(author, merge).await, Err(StoreError::NotFound(_))));
    let mut db = PgConnection::connect(&fixture.url).await.unwrap();
    let left: String =
        sqlx::query_scalar("select string_agg(m::text, ' ') from merges m").fetch_one(&mut db).await.unwrap();
    for word in ["Maud", "ekstrom", "7946"] {
        assert!(!left.contains(word), "{left}");
        assert!(!on_file(&fixture).await.contains(word), "{word}");
    }
    // Whoever comes with the address now is somebody new.
    fixture.lead_of(b"four", "Maude Ekstrom", "Ekström Berries", "m.ekstrom@ekstromberries.example").await;
    assert_eq!(store.contacts(author, "", None).await.unwrap().contacts.len(), 1);
}

#[tokio::test]
async fn one_contact_twice_and_others_contacts_are_refused() {
    let fixture = Fixture::new().await;
    let (store, author) = (&fixture.store, &fixture.home.author);
    let (stays, goes) = two(&fixture).await;
    let none = BTreeMap::new();
    assert!(matches!(store.merge_contacts(author, stays, stays, &none).await, Err(StoreError::Conflict(_))));
    assert!(matches!(store.merge_contacts(author, stays, Uuid::nil(), &none).await, Err(StoreError::NotFound(_))));
    for stranger in [&fixture.other.author, &fixture.other.reps[0]] {
        assert!(store.merge_contacts(stranger, stays, goes, &none).await.is_err());
        assert!(store.merge_preview(stranger, stays, goes, &none).await.is_err());
    }
    store.merge_contacts(author, stays, goes, &none).await.unwrap();
    let merge = merge_of(&fixture, stays).await;
    assert!(store.undo_merge(&fixture.other.author, merge).await.is_err());
    assert!(matches!(store.merge_contacts(author, stays, goes, &none).await, Err(StoreError::NotFound(_))), "gone");
}

#[tokio::test]
async fn what_somebody_refused_holds_for_both_while_they_are_one() {
    let fixture = Fixture::new().await;
    let (store, author) = (&fixture.store, &fixture.home.author);
    let (stays, goes) = two(&fixture).await;
    let (call, mail) = (Channel::Call, Channel::Mail);
    let changed = store.change_reach(author, goes, Some(call), &[call]).await.unwrap();
    assert_eq!((changed.reach.prefers, changed.reach.refuses.as_slice()), (None, [call].as_slice()), "not both");
    assert_eq!(changed.reach.by.as_deref(), Some("author"));
    store.change_reach(author, goes, Some(Channel::Text), &[call]).await.unwrap();
    store.change_reach(author, stays, Some(mail), &[]).await.unwrap();
    store.merge_contacts(author, stays, goes, &BTreeMap::new()).await.unwrap();
    let reach = store.contact(author, stays).await.unwrap().reach;
    assert_eq!((reach.prefers, reach.refuses), (Some(mail), vec![call]));
    // What is changed while they are one leaves what the other preferred.
    store.change_reach(author, stays, Some(mail), &[call, Channel::Text]).await.unwrap();
    store.change_reach(author, stays, Some(mail), &[call]).await.unwrap();
    let merge = merge_of(&fixture, stays).await;
    let undone = store.undo_merge(author, merge).await.unwrap();
    assert_eq!(undone.reach.prefers, Some(mail));
    store.change_reach(author, stays, Some(mail), &[]).await.unwrap();
    assert_eq!(store.contact(author, stays).await.unwrap().reach.refuses, []);
    let goes_reach = store.contact(author, goes).await.unwrap().reach;
    assert_eq!((goes_reach.prefers, goes_reach.refuses), (Some(Channel::Text), vec![call]));
    // Their open leads tell of it, and what they said is a word that can be taken back.
    let lead = store.contact(author, goes).await.unwrap().leads[0].id;
    let said = async || store.lead(author, lead).await.unwrap();
    assert!(said().await.log.iter().any(|row| row.what == "They want no calls"));
    assert_eq!(said().await.reach.refuses, [call]);
    store.change_reach(author, goes, Some(Channel::Text), &[]).await.unwrap();
    assert!(said().await.log.iter().any(|row| row.what == "They take calls again"));
    let held = store.export_contact(author, stays).await.unwrap();
    assert_eq!(held.reach.as_deref(), Some("They prefer mail"));
    // Nobody changes it for people of another workspace.
    let other = store.change_reach(&fixture.other.author, goes, None, &[mail]).await;
    assert!(matches!(other, Err(StoreError::NotFound(_))));
}
