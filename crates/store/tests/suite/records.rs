//! What a filing makes of a prospect: one company, one contact, a lead in the order to call; and the catalogue beside
//! it.

#![allow(clippy::unwrap_used, clippy::panic, reason = "helpers of tests are tests")]

use crate::common::{Fixture, now};
use lumbo_dialogue::file::{Field, FieldType};
use lumbo_dialogue::talk::{ProspectInput, ProspectMessage};
use lumbo_records::LeadStatus;
use lumbo_route::words;
use lumbo_store::{CatalogueError, LeadFilter, OutcomeChange};

#[tokio::test]
async fn two_people_of_one_domain_are_two_contacts_of_one_company() {
    let fixture = Fixture::new().await;
    fixture.lead_of(b"one", "Maud Ekström", "Ekström Berries", "maud@ekstromberries.example").await;
    fixture.lead_of(b"two", "Nils Ekström", "Ekström Berries AB", "nils@ekstromberries.example").await;
    assert_eq!(
        (fixture.count("companies").await, fixture.count("contacts").await, fixture.count("leads").await),
        (1, 2, 2)
    );
    // The company keeps its name; each lead shows what its own conversation said.
    let names: Vec<Option<String>> =
        fixture.leads(&fixture.home.author).await.into_iter().map(|lead| lead.company).collect();
    assert_eq!(names, [Some("Ekström Berries".to_owned()), Some("Ekström Berries AB".to_owned())]);
}

#[tokio::test]
async fn the_same_address_is_the_same_contact_however_it_is_written() {
    let fixture = Fixture::new().await;
    fixture.lead_of(b"one", "Maud Ekström", "Ekström Berries", "maud@ekstromberries.example").await;
    fixture.lead_of(b"two", "Maud E. Ekström", "Ekström Berries", "Maud@EkstromBerries.example").await;
    assert_eq!(
        (fixture.count("companies").await, fixture.count("contacts").await, fixture.count("leads").await),
        (1, 1, 1)
    );
}

#[tokio::test]
async fn two_firms_of_one_name_and_two_domains_stay_two() {
    let fixture = Fixture::new().await;
    fixture.lead_of(b"one", "Maud Ekström", "Northgate", "maud@northgate-foods.example").await;
    fixture.lead_of(b"two", "Lee Marsh", "Northgate", "lee@northgate-fish.example").await;
    assert_eq!((fixture.count("companies").await, fixture.count("contacts").await), (2, 2));
}

#[tokio::test]
async fn the_highest_band_is_called_first_then_who_has_waited_longest_and_closed_leads_stand_last() {
    let fixture = Fixture::new().await;
    let warm = [
        "storage",
        "chilled",
        "70",
        "spring",
        "owner",
        "Tom Adeyemi",
        "Orchard Row Juices",
        "tom@orchardrow.example",
        ">skip",
    ];
    fixture.talk(b"warm", &warm).await;
    fixture.lead_of(b"one", "Maud Ekström", "Ekström Berries", "maud@ekstromberries.example").await;
    fixture.lead_of(b"two", "Lee Marsh", "Marsh Fish", "lee@marshfish.example").await;
    let order =
        async || fixture.leads(&fixture.home.author).await.into_iter().filter_map(|lead| lead.name).collect::<Vec<_>>();
    assert_eq!(order().await, ["Maud Ekström", "Lee Marsh", "Tom Adeyemi"]);
    let first = fixture.leads(&fixture.home.author).await.remove(0);
    let revision = fixture.store.lead(&fixture.home.author, first.id).await.unwrap().revision;
    let change = |status, revision| OutcomeChange {
        revision,
        status,
        reason: None,
        amount: None,
        currency: None,
        later_on: None,
    };
    // Who was called stands behind who was not, in the same band; who is won stands last.
    let called = fixture
        .store
        .change_outcome(&fixture.home.author, first.id, &change(LeadStatus::Trying, revision))
        .await
        .unwrap();
    assert_eq!(order().await, ["Lee Marsh", "Maud Ekström", "Tom Adeyemi"]);
    fixture
        .store
        .change_outcome(&fixture.home.author, first.id, &change(LeadStatus::Won, called.revision))
        .await
        .unwrap();
    assert_eq!(order().await, ["Lee Marsh", "Tom Adeyemi", "Maud Ekström"]);
    // What is closed is nobody's work any more.
    let rep = fixture.home.reps.iter().find(|rep| Some(&rep.name) == first.owner.as_ref()).unwrap();
    assert!(fixture.leads_by(rep, LeadFilter::Mine, "").await.iter().all(|lead| lead.id != first.id));
}

#[tokio::test]
async fn a_lead_says_in_a_line_what_they_want_and_why_it_is_whose_it_is() {
    let fixture = Fixture::new().await;
    fixture.lead(b"one").await;
    let row = fixture.leads(&fixture.home.author).await.remove(0);
    assert!(row.wants.starts_with("250 pallets"), "{}", row.wants);
    assert!(row.wants.contains("frozen"), "{}", row.wants);
    assert!(row.wants.split(", ").count() <= 4, "four things at most: {}", row.wants);
    assert!(row.total.unwrap() > 0 && row.band.is_some() && row.owner.is_some(), "{row:?}");
    let detail = fixture.store.lead(&fixture.home.author, row.id).await.unwrap();
    let pallets = detail.fields.iter().find(|field| field.key == "pallets").unwrap();
    assert_eq!(
        (pallets.kind, &pallets.value, pallets.shown.as_str()),
        (FieldType::WholeNumber, &serde_json::json!("250"), "250 pallets")
    );
    assert!(
        words::says(&detail.decision, &|_| None).iter().any(|step| step.contains("ina") || step.contains("udo")),
        "{:?}",
        detail.decision.steps
    );
    // What was left out has no entry at all.
    assert!(!detail.fields.iter().any(|field| field.value.is_null()));
}

#[tokio::test]
async fn an_answer_changed_after_the_filing_amends_the_lead_and_files_no_second_one() {
    let fixture = Fixture::new().await;
    let ended = fixture.lead(b"one").await;
    let row = fixture.leads(&fixture.home.author).await.remove(0);
    let body = ProspectInput::Revise { turn: "t_pallets".into(), text: "300".into(), picked: false };
    let input = ProspectMessage { id: "change".into(), expects: ended.view.sequence, body };
    fixture.store.take_input(b"one", input.clone(), now()).await.unwrap();
    let leads = fixture.leads(&fixture.home.author).await;
    assert_eq!((leads.len(), leads[0].id), (1, row.id));
    let detail = fixture.store.lead(&fixture.home.author, row.id).await.unwrap();
    assert_eq!(detail.fields.iter().find(|field| field.key == "pallets").unwrap().value, serde_json::json!("300"));
    assert_eq!((detail.log.len(), fixture.count("contacts").await), (2, 1), "{:?}", detail.log);
    // Sent a second time it does nothing.
    fixture.store.take_input(b"one", input.clone(), now()).await.unwrap();
    assert_eq!(fixture.store.lead(&fixture.home.author, row.id).await.unwrap().log.len(), 2);
}

fn field(id: &str, key: &str, kind: &str) -> Field {
    serde_json::from_value(serde_json::json!({"id": id, "key": key, "label": key, "type": kind})).unwrap()
}

#[tokio::test]
async fn the_catalogue_counts_what_uses_a_field() {
    let fixture = Fixture::new().await;
    fixture.lead(b"one").await;
    let rows = fixture.store.catalogue(fixture.home.workspace).await.unwrap();
    let of = |key: &str| rows.iter().find(|row| row.field.key == key).unwrap();
    assert_eq!((of("pallets").leads, of("pallets").dialogues.len()), (1, 1));
    assert!(of("pallets").dialogues[0].places > 1, "asked, scored and read");
    assert_eq!(fixture.store.leads_with(fixture.home.workspace, &of("pallets").field).await.unwrap(), 1);
    // The other workspace has the same fields and no leads.
    assert_eq!(fixture.store.leads_with(fixture.other.workspace, &of("pallets").field).await.unwrap(), 0);
}

#[tokio::test]
async fn fields_are_changed_all_or_none() {
    let fixture = Fixture::new().await;
    let (store, home) = (&fixture.store, &fixture.home);
    let count = async || store.fields(home.workspace).await.unwrap().len();
    let before = count().await;
    // The second has a key that is taken, so the first is not made either.
    let changes =
        [(None, field("f_new", "docks", "whole_number")), (None, field("f_again", "pallets", "whole_number"))];
    let refused = store.change_fields(home.workspace, home.author.id, &changes).await;
    assert!(matches!(refused, Err(CatalogueError::Unsound(_))), "{refused:?}");
    assert_eq!(count().await, before);
    store.change_fields(home.workspace, home.author.id, &changes[..1]).await.unwrap();
    assert_eq!(count().await, before + 1);
}

#[tokio::test]
async fn a_field_is_taken_out_only_where_nothing_uses_it() {
    let fixture = Fixture::new().await;
    let (store, home) = (&fixture.store, &fixture.home);
    store
        .change_fields(home.workspace, home.author.id, &[(None, field("f_new", "docks", "whole_number"))])
        .await
        .unwrap();
    let Err(CatalogueError::InUse { label, dialogues }) =
        store.remove_field(home.workspace, home.author.id, "fld_pallets").await
    else {
        panic!()
    };
    assert_eq!((label.as_str(), dialogues.len()), ("Pallets", 1));
    assert_eq!(store.remove_field(home.workspace, home.author.id, "f_new").await.unwrap().key, "docks");
    assert!(store.remove_field(home.workspace, home.author.id, "f_new").await.is_err(), "it is gone");
    // Somebody else's field cannot be taken out.
    assert!(store.remove_field(fixture.other.workspace, fixture.other.author.id, "f_new").await.is_err());
}

#[tokio::test]
async fn a_change_of_type_is_told_before_it_is_made() {
    let fixture = Fixture::new().await;
    let (store, home) = (&fixture.store, &fixture.home);
    let pallets = store.fields(home.workspace).await.unwrap().into_iter().find(|field| field.key == "pallets").unwrap();
    let text = Field { kind: FieldType::Text, unit: None, rules: Vec::new(), ..pallets.clone() };
    let told = store.preview_fields(home.workspace, &[&text, &pallets]).await.unwrap();
    assert_eq!((told[0].len(), told[0][0].dialogue), (1, home.dialogue));
    assert!(!told[0][0].consequences.breaks.is_empty(), "{:?}", told[0][0].consequences);
    assert!(told[1].iter().all(|draft| draft.consequences.breaks.is_empty()), "what stays breaks nothing");
    // Nothing was changed by looking, and a field that stays as it is changes nothing.
    assert_eq!(store.draft(home.workspace, home.dialogue).await.unwrap().revision, 1);
}
