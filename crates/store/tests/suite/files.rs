//! Companies and contacts from files, and undoing a file.
#![allow(clippy::unwrap_used, clippy::panic, reason = "helpers of tests are tests")]

use crate::common::Fixture;
use lumbo_records::{FileHolds, Standing};
use lumbo_store::{Becomes, CompanyChange, FileRow, FileUndone, NewRecordFile, StoreError, TakenRow};
use uuid::Uuid;

fn rows(cells: &[&[(&str, &str)]]) -> Vec<FileRow> {
    let row = |(place, cells): (usize, &&[(&str, &str)])| FileRow {
        line: i32::try_from(place).unwrap() + 2,
        cells: cells.iter().map(|(key, cell)| ((*key).to_owned(), (*cell).to_owned())).collect(),
    };
    cells.iter().enumerate().map(row).collect()
}

async fn begin(fixture: &Fixture, holds: FileHolds) -> Uuid {
    let new = NewRecordFile { holds, file: "list.csv", source: "Our list", ground: "They buy from us" };
    fixture.store.begin_file(&fixture.home.author, &new).await.unwrap()
}

fn became(taken: &[TakenRow]) -> Vec<(i32, Becomes)> {
    taken.iter().map(|row| (row.line, row.becomes)).collect()
}

#[tokio::test]
async fn a_file_of_companies_makes_changes_and_names_rows_and_is_undone_as_a_whole() {
    let fixture = Fixture::new().await;
    let (store, home) = (&fixture.store, &fixture.home);
    let author = &home.author;
    fixture.lead(b"a").await;
    let known = store.companies(author, "", None).await.unwrap().companies[0].id;
    let file = rows(&[
        &[("domain", "www.ekstromberries.example"), ("standing", "customer"), ("owner", "ina"), ("name", "Other Ltd")],
        &[("domain", "quince.example"), ("name", "Quince Larder"), ("standing", "Partner")],
        &[("domain", "gmail.com")],
        &[("domain", "ekstromberries.example")],
    ]);
    let (tried, bad) = store.preview_file(home.workspace, FileHolds::Companies, &file).await.unwrap();
    assert_eq!(became(&tried), [(2, Becomes::Changes), (3, Becomes::New), (5, Becomes::Same)]);
    assert_eq!((bad.len(), bad[0].line), (1, 4));
    assert!(tried[0].says.iter().any(|says| says.contains("Name stays “Ekström Berries”")), "{tried:?}");
    assert_eq!(store.company(author, known).await.unwrap().standing, Standing::None, "nothing was kept");

    let id = begin(&fixture, FileHolds::Companies).await;
    let (taken, bad) = store.take_rows(author, id, &file).await.unwrap();
    assert_eq!((taken.len(), bad.len()), (3, 1));
    // The same rows again, as after an answer that was lost.
    assert!(store.take_rows(author, id, &file).await.unwrap().0.is_empty());
    let changed = store.company(author, known).await.unwrap();
    assert_eq!((changed.standing, changed.name.as_deref()), (Standing::Customer, Some("Ekström Berries")));
    assert_eq!(changed.owner.as_ref().map(|(id, _)| *id), Some(home.reps[0].id));
    let listed = store.record_files(home.workspace).await.unwrap();
    assert_eq!((listed[0].made, listed[0].changed), (1, 1));
    assert!(store.record_files(fixture.other.workspace).await.unwrap().is_empty());
    let theirs = store.take_rows(&fixture.other.author, id, &file).await;
    assert!(matches!(theirs, Err(StoreError::NotFound(_))), "{theirs:?}");

    // What somebody changed since stays as it was changed.
    let change = CompanyChange { standing: Some(Standing::Competitor), ..CompanyChange::default() };
    store.change_company(author, known, &change).await.unwrap();
    let undone = store.undo_file(author, id).await.unwrap();
    assert_eq!(undone, FileUndone { taken_out: 1, kept: 0, given_back: 1 });
    let back = store.company(author, known).await.unwrap();
    assert_eq!((back.standing, back.owner), (Standing::Competitor, None));
    assert_eq!(store.companies(author, "", None).await.unwrap().companies.len(), 1);
    assert!(matches!(store.undo_file(author, id).await, Err(StoreError::NotFound(_))), "once");
    assert!(matches!(store.take_rows(author, id, &file).await, Err(StoreError::NotFound(_))), "nothing is added to it");
}

#[tokio::test]
async fn a_file_of_contacts_fills_in_what_is_missing_and_what_has_a_lead_since_stays() {
    let fixture = Fixture::new().await;
    let (store, home) = (&fixture.store, &fixture.home);
    let author = &home.author;
    // Without a phone number.
    fixture.lead_of(b"a", "Maud Ekström", "Ekström Berries", "maud@ekstromberries.example").await;
    let maud = store.contacts(author, "", None).await.unwrap().contacts[0].id;
    let file = rows(&[
        &[("email", "MAUD@ekstromberries.example"), ("name", "Maude"), ("phone", "+44 20 7946 0588"), ("tags", "fair")],
        &[("email", "pia@quince.example"), ("name", "Pia Lindqvist"), ("company", "Quince Larder"), ("tags", "fair")],
        &[("email", "nobody")],
        &[("email", "otto@gmail.com"), ("company", "Otto & Sons")],
    ]);
    let id = begin(&fixture, FileHolds::Contacts).await;
    let (taken, bad) = store.take_rows(author, id, &file).await.unwrap();
    assert_eq!(became(&taken), [(2, Becomes::Changes), (3, Becomes::New), (5, Becomes::New)]);
    assert_eq!(bad.iter().map(|row| row.line).collect::<Vec<_>>(), [4]);
    let filled = store.contact(author, maud).await.unwrap();
    assert_eq!((filled.name.as_deref(), filled.phone.as_deref()), (Some("Maud Ekström"), Some("+442079460588")));
    assert_eq!(filled.tags, ["fair"]);
    let all = store.contacts(author, "", None).await.unwrap().contacts;
    let of = |name: &str| all.iter().find(|contact| contact.email.as_deref() == Some(name)).unwrap();
    assert_eq!(of("pia@quince.example").company.as_deref(), Some("Quince Larder"));
    assert_eq!(of("otto@gmail.com").company, None, "a name alone makes no company");
    // Pia asks for something since: a lead holds on to her, and to her company.
    fixture.lead_of(b"b", "Pia Lindqvist", "Quince Larder", "pia@quince.example").await;
    let undone = store.undo_file(author, id).await.unwrap();
    assert_eq!(undone, FileUndone { taken_out: 1, kept: 1, given_back: 1 });
    let back = store.contact(author, maud).await.unwrap();
    assert_eq!((back.phone, back.tags.len()), (None, 0));
    let left = store.contacts(author, "", None).await.unwrap().contacts;
    assert_eq!(left.len(), 2);
    assert!(left.iter().any(|contact| contact.company.as_deref() == Some("Quince Larder")), "{left:?}");
    // An erasure leaves nothing of them with the file.
    store.erase_contact(author, maud).await.unwrap();
    let mut db = <sqlx::PgConnection as sqlx::Connection>::connect(&fixture.url).await.unwrap();
    let wrote: String = sqlx::query_scalar("select wrote::text from record_file_rows where record_id = $1")
        .bind(maud)
        .fetch_one(&mut db)
        .await
        .unwrap();
    assert_eq!(wrote, "{}");
}
