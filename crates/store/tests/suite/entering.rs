//! Leads that people enter, by hand or from a file: filed as a dialogue's own, once, and taken out again as a whole.

#![allow(clippy::unwrap_used, clippy::panic, reason = "helpers of tests are tests")]

use crate::common::Fixture;
use lumbo_store::{AnswersQuery, EnteredRow, LeadFilter, NewImport, StoreError};
use sqlx::{Connection, PgConnection};
use uuid::Uuid;

fn row(line: i32, name: &str, firm: &str) -> EnteredRow {
    let email = format!("{}@{firm}.example", name.split(' ').next().unwrap_or_default().to_lowercase());
    let answers = [
        ("interest", "storage"),
        ("temperature", "frozen"),
        ("pallets", "340"),
        ("role", "owner"),
        ("name", name),
        ("company", firm),
        ("email", email.as_str()),
    ];
    EnteredRow { line, answers: answers.map(|(key, text)| (key.to_owned(), text.to_owned())).to_vec() }
}

fn fair(fixture: &Fixture, owner: Option<Uuid>, tells: bool) -> NewImport<'static> {
    NewImport {
        dialogue: fixture.home.dialogue,
        file: Some("fair.csv"),
        source: "Fair in Leeds",
        ground: "asked for a call",
        owner,
        tells,
    }
}

#[tokio::test]
async fn rows_become_leads_once_and_bad_ones_are_named() {
    let fixture = Fixture::new().await;
    let (store, home) = (&fixture.store, &fixture.home);
    let mut bad = row(4, "Cara Lux", "crane");
    bad.answers[2].1 = "many".into();
    let rows = [row(2, "Ada Ohm", "heron"), row(3, "Bo Sund", "kettle"), bad];
    let (good, unread) = store.preview_leads(home.workspace, home.dialogue, &rows).await.unwrap();
    assert_eq!((good.len(), unread.len(), fixture.count("leads").await), (2, 1, 0), "a preview files nothing");
    assert!(good[0].total.is_some() && good[0].queue.is_some());
    assert!(unread[0].line == 4 && unread[0].says.starts_with("Pallets “many”: "), "{unread:?}");
    let import = store.begin_import(&home.author, &fair(&fixture, None, false)).await.unwrap();
    let (filed, unread) = store.enter_leads(&home.author, import, &rows).await.unwrap();
    assert_eq!((filed.len(), unread.len()), (2, 1));
    let (again, _) = store.enter_leads(&home.author, import, &rows).await.unwrap();
    assert_eq!((again, fixture.count("leads").await), (filed.clone(), 2), "sent twice, filed once");
    let lead = store.lead(&home.author, filed[0].1).await.unwrap();
    assert_eq!(lead.row.name.as_deref(), Some("Ada Ohm"));
    assert!(lead.row.owner.is_some() && lead.row.call_by.is_none(), "no clock runs for what did not come just now");
    assert!(lead.log.iter().any(|line| line.what.contains("fair.csv") && line.what.contains("asked for a call")));
    for rep in &home.reps {
        assert!(store.notices(rep).await.unwrap().0.is_empty(), "nobody is told unless one says so");
    }
    // Nobody held these conversations: no figure counts them.
    let counted = store.count_answers(home.workspace, home.dialogue, &AnswersQuery::default()).await.unwrap();
    assert_eq!(counted.all, 0);
    assert_eq!(store.field_counts(home.workspace, home.dialogue).await.unwrap().conversations, 0);
    let other = store.enter_leads(&fixture.other.author, import, &rows).await;
    assert!(matches!(other, Err(StoreError::NotFound(_))));
}

#[tokio::test]
async fn who_is_named_gets_them_without_a_turn_and_is_told_where_one_says_so() {
    let fixture = Fixture::new().await;
    let (store, home) = (&fixture.store, &fixture.home);
    let udo = &home.reps[1];
    let import = store.begin_import(&home.author, &fair(&fixture, Some(udo.id), true)).await.unwrap();
    let (filed, _) = store.enter_leads(&home.author, import, &[row(2, "Ada Ohm", "heron")]).await.unwrap();
    let lead = store.lead(udo, filed[0].1).await.unwrap();
    assert!(lead.row.mine && lead.row.call_by.is_some());
    assert_eq!(store.notices(udo).await.unwrap().1, 1);
    // The rotation stands where it stood: the first of two is asked first.
    fixture.lead_of(b"one", "Bo Lind", "Kettle Foods", "bo@kettlefoods.example").await;
    let bo = fixture.leads_by(&home.author, LeadFilter::All, "Bo Lind").await.remove(0);
    assert_eq!(bo.owner.as_deref(), Some("ina"));
    let nobody = store.begin_import(&home.author, &fair(&fixture, Some(Uuid::from_u128(9)), false)).await;
    assert!(matches!(nobody, Err(StoreError::NotFound(_))));
}

#[tokio::test]
async fn undoing_takes_out_what_came_and_leaves_what_somebody_worked_on() {
    let fixture = Fixture::new().await;
    let (store, home) = (&fixture.store, &fixture.home);
    // Somebody who was on file before, and a firm too.
    fixture.lead_of(b"one", "Ida Berg", "Heron", "ida@heron.example").await;
    let import = store.begin_import(&home.author, &fair(&fixture, None, false)).await.unwrap();
    let rows = [
        row(2, "Ada Ohm", "heron"),
        row(3, "Bo Sund", "kettle"),
        row(4, "Cara Lux", "crane"),
        row(5, "Ida Berg", "heron"),
    ];
    let (filed, bad) = store.enter_leads(&home.author, import, &rows).await.unwrap();
    assert!(bad.is_empty(), "{bad:?}");
    let cara = filed.iter().find(|(line, _)| *line == 4).unwrap().1;
    store.add_note(&home.author, cara, "Wants a call on Monday").await.unwrap();
    let listed = store.imports(home.workspace).await.unwrap().remove(0);
    assert_eq!((listed.file.as_deref(), listed.source.as_str()), (Some("fair.csv"), "Fair in Leeds"));
    let mut db = PgConnection::connect(&fixture.url).await.unwrap();
    let revised = "update leads set revision = revision + 1 where id = $1";
    sqlx::query(revised).bind(cara).execute(&mut db).await.unwrap();
    let undone = store.undo_import(&home.author, import).await.unwrap();
    // Ida's joined the lead she had; Cara's was worked on.
    assert_eq!((undone.removed, undone.kept), (2, 2));
    let names: Vec<Option<String>> = fixture.leads(&home.author).await.into_iter().map(|lead| lead.name).collect();
    assert!(names.contains(&Some("Ida Berg".into())) && names.contains(&Some("Cara Lux".into())), "{names:?}");
    assert!(!names.contains(&Some("Ada Ohm".into())) && !names.contains(&Some("Bo Sund".into())), "{names:?}");
    let contacts = store.contacts(&home.author, "", None).await.unwrap().contacts;
    assert_eq!(contacts.len(), 2, "Ada and Bo are on file no more");
    let firms: Vec<String> = sqlx::query_scalar("select coalesce(domain, name) from companies where workspace_id = $1")
        .bind(home.workspace)
        .fetch_all(&mut db)
        .await
        .unwrap();
    assert!(firms.iter().any(|firm| firm == "heron.example"), "it was there before: {firms:?}");
    assert!(!firms.iter().any(|firm| firm == "kettle.example"), "{firms:?}");
    assert!(matches!(store.undo_import(&home.author, import).await, Err(StoreError::NotFound(_))), "once");
    let late = store.enter_leads(&home.author, import, &rows).await;
    assert!(matches!(late, Err(StoreError::NotFound(_))), "nothing is added to what was undone");
}

#[tokio::test]
async fn nobody_takes_anothers_lead_by_entering_its_person_again() {
    let fixture = Fixture::new().await;
    let (store, home) = (&fixture.store, &fixture.home);
    let [ina, udo] = &home.reps;
    fixture.lead_of(b"one", "Ida Berg", "Heron", "ida@heron.example").await;
    let before = fixture.leads(&home.author).await.remove(0);
    assert_eq!(before.owner.as_deref(), Some("ina"));
    let by_hand = NewImport { file: None, ..fair(&fixture, Some(udo.id), true) };
    let import = store.begin_import(udo, &by_hand).await.unwrap();
    let (filed, _) = store.enter_leads(udo, import, &[row(1, "Ida Berg", "heron")]).await.unwrap();
    assert_eq!(filed, [(1, before.id)], "it joins the lead that she has");
    let lead = store.lead(ina, before.id).await.unwrap();
    assert_eq!((lead.row.owner.as_deref(), lead.conversations.len()), (Some("ina"), 2));
    assert!(store.notices(udo).await.unwrap().0.is_empty());
}

#[tokio::test]
async fn what_was_typed_of_somebody_goes_when_they_are_erased() {
    let fixture = Fixture::new().await;
    let (store, home) = (&fixture.store, &fixture.home);
    let by_hand = NewImport { file: None, source: "Ida Berg rang", ..fair(&fixture, None, false) };
    let import = store.begin_import(&home.author, &by_hand).await.unwrap();
    store.enter_leads(&home.author, import, &[row(1, "Ida Berg", "heron")]).await.unwrap();
    let contact = store.contacts(&home.author, "ida", None).await.unwrap().contacts.remove(0).id;
    store.erase_contact(&home.author, contact).await.unwrap();
    let left = store.imports(home.workspace).await.unwrap().remove(0);
    assert_eq!((left.source.as_str(), left.ground.as_str()), ("", ""));
}
