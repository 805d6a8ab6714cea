//! Filings: who is on file stays who they are, every lead shows what its own conversation said, and many at once see
//! each other.

#![allow(clippy::unwrap_used, clippy::panic, reason = "helpers of tests are tests")]

use std::collections::BTreeMap;

use crate::common::{Fixture, patient};
use jiff::SignedDuration;
use lumbo_dialogue::talk::{ProspectInput, ProspectMessage};
use lumbo_records::{AlsoGiven, LeadStatus};
use lumbo_route::words;
use lumbo_store::{AlsoGivenChange, LeadFilter, LeadQuery, OutcomeChange, PLAIN, StoreError};
use sqlx::{Connection, PgConnection, Row};

const MAUD: &str = "maud@ekstromberries.example";

/// The one contact: name, phone, company.
async fn contact(fixture: &Fixture) -> (Option<String>, Option<String>, Option<String>) {
    let mut db = PgConnection::connect(&fixture.url).await.unwrap();
    let row = sqlx::query(
        "select k.name, k.phone, c.name from contacts k left join companies c on c.id =
        k.company_id where lower(k.email) = $1",
    )
    .bind(MAUD)
    .fetch_one(&mut db)
    .await
    .unwrap();
    (row.get(0), row.get(1), row.get(2))
}

#[tokio::test]
async fn a_stranger_who_types_somebodys_address_redirects_no_call() {
    let fixture = Fixture::new().await;
    fixture.lead(b"one").await;
    let before = contact(&fixture).await;
    let first = fixture.leads(&fixture.home.author).await.remove(0);
    // Closed, so that the second conversation is a lead of its own.
    let revision = fixture.store.lead(&fixture.home.author, first.id).await.unwrap().revision;
    let won =
        OutcomeChange { revision, status: LeadStatus::Won, reason: None, amount: None, currency: None, later_on: None };
    fixture.store.change_outcome(&fixture.home.author, first.id, &won).await.unwrap();
    fixture
        .talk(
            b"two",
            &["Blast freezing", "frozen", "yes", "250", "owner", "Rex Marlow", "Marlow Ltd", MAUD, "020 7946 0999"],
        )
        .await;
    assert_eq!(contact(&fixture).await, before);
    let rows = fixture.leads(&fixture.home.author).await;
    let [second, older] = rows.as_slice() else { panic!("{rows:?}") };
    assert_eq!(
        (older.id, older.name.as_deref(), older.company.as_deref()),
        (first.id, Some("Maud Ekström"), Some("Ekström Berries"))
    );
    let older = fixture.store.lead(&fixture.home.author, older.id).await.unwrap();
    assert_eq!(older.phone.as_deref(), Some("+442079460588"));
    // The lead itself shows what this conversation said, and what waits beside what is on file.
    let second = fixture.store.lead(&fixture.home.author, second.id).await.unwrap();
    assert_eq!((second.row.name.as_deref(), second.phone.as_deref()), (Some("Rex Marlow"), Some("+442079460999")));
    let given: Vec<_> =
        second.also_given.iter().map(|given| (given.what, given.value.as_str(), given.on_file.as_deref())).collect();
    assert_eq!(
        given,
        [
            (AlsoGiven::Company, "Marlow Ltd", Some("Ekström Berries")),
            (AlsoGiven::Name, "Rex Marlow", Some("Maud Ekström")),
            (AlsoGiven::Phone, "+442079460999", Some("+442079460588")),
        ]
    );
    // A rep's word puts one on file and leaves another; each once.
    let (name, phone) = (second.also_given[1].id, second.also_given[2].id);
    let author = &fixture.home.author;
    fixture.store.settle_also_given(author, second.row.id, phone, AlsoGivenChange { accepted: true }).await.unwrap();
    let settled = fixture
        .store
        .settle_also_given(author, second.row.id, name, AlsoGivenChange { accepted: false })
        .await
        .unwrap();
    assert_eq!(settled.also_given.len(), 1);
    assert_eq!(
        contact(&fixture).await,
        (Some("Maud Ekström".into()), Some("+442079460999".into()), Some("Ekström Berries".into()))
    );
    let again = fixture.store.settle_also_given(author, second.row.id, phone, AlsoGivenChange { accepted: true }).await;
    assert!(matches!(again, Err(StoreError::NotFound(_))), "{again:?}");
    let elsewhere = fixture
        .store
        .settle_also_given(
            &fixture.other.author,
            second.row.id,
            settled.also_given[0].id,
            AlsoGivenChange { accepted: true },
        )
        .await;
    assert!(matches!(elsewhere, Err(StoreError::NotFound(_))));
}

#[tokio::test]
async fn a_second_conversation_joins_the_open_lead_and_a_lower_band_waits() {
    let fixture = Fixture::new().await;
    fixture.lead(b"one").await;
    let first = fixture.leads(&fixture.home.author).await.remove(0);
    fixture.clock.advance(SignedDuration::from_hours(24 * 10));
    fixture
        .talk(
            b"two",
            &["storage", "chilled", "20", "spring", "buyer", "Maud Ekström", "Ekström Berries", MAUD, ">skip"],
        )
        .await;
    let rows = fixture.leads(&fixture.home.author).await;
    assert_eq!((rows.len(), rows[0].id, rows[0].total), (1, first.id, first.total), "the higher band stands");
    let detail = fixture.store.lead(&fixture.home.author, first.id).await.unwrap();
    assert_eq!(
        detail.conversations.iter().map(|one| (one.shown, one.waits)).collect::<Vec<_>>(),
        [(true, false), (false, true)]
    );
    assert_eq!(detail.row.owner, first.owner);
    assert!(detail.conversations[1].total < detail.conversations[0].total, "{:?}", detail.conversations);
    let taken = fixture.store.accept_newer(&fixture.home.author, first.id).await.unwrap();
    assert_eq!(
        (taken.row.total, taken.row.wants.starts_with("20 pallets")),
        (taken.conversations[1].total, true),
        "{}",
        taken.row.wants
    );
    assert!(matches!(fixture.store.accept_newer(&fixture.home.author, first.id).await, Err(StoreError::NotFound(_))));
    // After thirty days it is a wish of its own.
    fixture.clock.advance(SignedDuration::from_hours(24 * 21));
    fixture.lead(b"three").await;
    let leads = fixture.leads(&fixture.home.author).await;
    assert_eq!(leads.len(), 2);
    assert!(
        leads.iter().all(|lead| lead.queue.is_some() && lead.owner.is_some()),
        "it is routed like any new one: {leads:?}"
    );
}

#[tokio::test]
async fn a_conversation_that_asks_less_wipes_nothing() {
    let fixture = Fixture::new().await;
    fixture.lead(b"one").await;
    let mut db = PgConnection::connect(&fixture.url).await.unwrap();
    let values =
        "select field_id, shown from record_values where workspace_id = $1 and record = 'contact' order by field_id";
    let read = async |db: &mut PgConnection| -> Vec<(String, String)> {
        sqlx::query_as(values).bind(fixture.home.workspace).fetch_all(db).await.unwrap()
    };
    let before = read(&mut db).await;
    assert!(before.iter().any(|(field, _)| field == "fld_role"), "{before:?}");
    fixture.talk(b"two", &["storage", "chilled", "3"]).await;
    fixture
        .talk(
            b"three",
            &["Blast freezing", "frozen", "yes", "250", ">skip", "Maud Ekström", "Ekström Berries", MAUD, ">skip"],
        )
        .await;
    assert_eq!(read(&mut db).await, before);
}

#[tokio::test]
async fn every_value_knows_its_conversation_and_what_stood_there_before() {
    let fixture = Fixture::new().await;
    fixture.lead(b"one").await;
    fixture.clock.advance(SignedDuration::from_hours(1));
    fixture
        .talk(
            b"two",
            &["Blast freezing", "frozen", "yes", "250", "manager", "Maud Ekström", "Ekström Berries", MAUD, ">skip"],
        )
        .await;
    let mut db = PgConnection::connect(&fixture.url).await.unwrap();
    let row = sqlx::query(
        "select v.value #>> '{}', v.before #>> '{}', v.source ->> 'conversation', c.id::text from record_values v,
         conversations c
         where v.field_id = 'fld_role' and c.token_hash = $1 and v.workspace_id = $2",
    )
    .bind(b"two".as_slice())
    .bind(fixture.home.workspace)
    .fetch_one(&mut db)
    .await
    .unwrap();
    let texts: Vec<Option<String>> = (0..4).map(|place| row.get(place)).collect();
    assert_eq!((texts[0].as_deref(), texts[1].as_deref()), (Some("manager"), Some("owner")));
    assert_eq!(texts[2], texts[3]);
}

#[tokio::test]
async fn an_answer_corrected_after_the_filing_is_routed_again_until_a_person_touches_it() {
    let fixture = Fixture::new().await;
    let ended = fixture.lead(b"one").await;
    let first = fixture.leads(&fixture.home.author).await.remove(0);
    let revise = |id: &str, expects: u32, text: &str| ProspectMessage {
        id: id.into(),
        expects,
        body: ProspectInput::Revise { turn: "t_role".into(), text: text.into(), picked: false },
    };
    let carried = async || -> i64 {
        let mut db = PgConnection::connect(&fixture.url).await.unwrap();
        let sum = "select sum(abs(rotation))::bigint from queue_members m join queues q on q.id = m.queue_id where
            q.workspace_id = $1 and q.name = $2";
        sqlx::query_scalar(sum)
            .bind(fixture.home.workspace)
            .bind(first.queue.clone().unwrap())
            .fetch_one(&mut db)
            .await
            .unwrap()
    };
    assert_eq!(carried().await, 2, "one turn of two was taken");
    let small = fixture
        .store
        .take_input(b"one", revise("a", ended.view.sequence, "manager"), fixture.clock.now())
        .await
        .unwrap();
    let moved = fixture.leads(&fixture.home.author).await.remove(0);
    assert_ne!(moved.queue, first.queue, "{moved:?}");
    assert_eq!(carried().await, 0, "the turn was given back");
    let detail = fixture.store.lead(&fixture.home.author, moved.id).await.unwrap();
    let trying = OutcomeChange {
        revision: detail.revision,
        status: LeadStatus::Trying,
        reason: None,
        amount: None,
        currency: None,
        later_on: None,
    };
    fixture.store.change_outcome(&fixture.home.author, moved.id, &trying).await.unwrap();
    fixture.store.take_input(b"one", revise("b", small.view.sequence, "owner"), fixture.clock.now()).await.unwrap();
    let touched = fixture.leads(&fixture.home.author).await.remove(0);
    assert_eq!((&touched.queue, &touched.owner), (&moved.queue, &moved.owner), "whoever touched it keeps it");
}

#[tokio::test]
async fn a_company_that_was_named_before_its_domain_was_known_is_no_second_company() {
    let fixture = Fixture::new().await;
    let ended = fixture.lead(b"one").await;
    let mut db = PgConnection::connect(&fixture.url).await.unwrap();
    let home = fixture.home.workspace;
    let companies = async |db: &mut PgConnection| -> Vec<(uuid::Uuid, Option<String>)> {
        let all = "select id, domain from companies where workspace_id = $1 order by made_at, id";
        sqlx::query_as(all).bind(home).fetch_all(db).await.unwrap()
    };
    let before = companies(&mut db).await;
    assert_eq!((before.len(), before[0].1.as_deref()), (1, Some("ekstromberries.example")));
    // As it stands after a filing that came before the address was asked.
    let forget = "update companies set domain = null where workspace_id = $1";
    sqlx::query(forget).bind(home).execute(&mut db).await.unwrap();
    let revise = |id: &str, expects: u32, text: &str| ProspectMessage {
        id: id.into(),
        expects,
        body: ProspectInput::Revise { turn: "t_role".into(), text: text.into(), picked: false },
    };
    let again = revise("a", ended.view.sequence, "manager");
    let again = fixture.store.take_input(b"one", again, fixture.clock.now()).await.unwrap();
    assert_eq!(companies(&mut db).await, before, "the same company, with its domain");
    // Meanwhile somebody else of the firm wrote, and made the company that has the domain.
    sqlx::query(forget).bind(home).execute(&mut db).await.unwrap();
    fixture.lead_of(b"two", "Nils Ek", "Ekström", "nils@ekstromberries.example").await;
    assert_eq!(companies(&mut db).await.len(), 2);
    let again = revise("b", again.view.sequence, "owner");
    fixture.store.take_input(b"one", again, fixture.clock.now()).await.unwrap();
    let after = companies(&mut db).await;
    assert_eq!((after.len(), after[0].1.as_deref()), (1, Some("ekstromberries.example")));
    assert_ne!(after[0].0, before[0].0);
    let both = "select count(distinct company_id) from leads where workspace_id = $1 and company_id is not null";
    let shared: i64 = sqlx::query_scalar(both).bind(home).fetch_one(&mut db).await.unwrap();
    assert_eq!(shared, 1, "both leads are of the one company");
    let contacts = "select count(*) from contacts where workspace_id = $1 and company_id = $2";
    let shared: i64 = sqlx::query_scalar(contacts).bind(home).bind(after[0].0).fetch_one(&mut db).await.unwrap();
    assert_eq!(shared, 2);
}

#[tokio::test]
async fn two_hundred_filings_at_once_of_the_same_and_of_different_people() {
    let fixture = Fixture::new().await;
    // Ten people file twenty times each.
    let mut tasks = tokio::task::JoinSet::new();
    for n in 0..200_u32 {
        let (store, slug, at) = (fixture.store.clone(), fixture.home.slug.clone(), fixture.clock.now());
        let family =
            ["Ash", "Birch", "Cedar", "Dogwood", "Elm", "Fir", "Gorse", "Hazel", "Ivy", "Juniper"][n as usize % 10];
        let (name, email) = (format!("Maud {family}"), format!("maud.{}@firm{}.example", family.to_lowercase(), n % 5));
        let replies =
            ["Blast freezing", "frozen", "yes", "250", "owner", &name, "Ekström Berries", &email, "020 7946 0588"]
                .map(str::to_owned);
        tasks.spawn(async move { patient(&store, &slug, &n.to_le_bytes(), at, &replies).await });
    }
    while let Some(done) = tasks.join_next().await {
        done.unwrap();
    }
    assert_eq!(
        (fixture.count("contacts").await, fixture.count("companies").await, fixture.count("leads").await),
        (10, 5, 10)
    );
    assert_eq!(fixture.count("lead_snapshots").await, 200, "each conversation has its own");
    // Two reps in turn: whoever files last sees whom the one before was given to.
    let mut owners: BTreeMap<String, usize> = BTreeMap::new();
    let mut said = Vec::new();
    for row in fixture.leads(&fixture.home.author).await {
        *owners.entry(row.owner.clone().unwrap()).or_default() += 1;
        let detail = fixture.store.lead(&fixture.home.author, row.id).await.unwrap();
        let names = |key: &str| detail.queue_names.get(key).cloned();
        said.push((words::says(&detail.decision, &names).last().unwrap().clone(), row.owner.unwrap()));
    }
    assert_eq!(owners.values().copied().collect::<Vec<_>>(), [5, 5]);
    let first = said.iter().filter(|(step, _)| step.ends_with("is first in the rotation")).count();
    let after = |one: &str, before: &str| {
        said.iter()
            .filter(|(step, owner)| {
                owner == one && step.ends_with(&format!("{one} is next in the rotation after {before}"))
            })
            .count()
    };
    assert_eq!((first, after("ina", "udo"), after("udo", "ina")), (1, 4, 5), "every reason is true: {said:?}");
}

#[tokio::test]
async fn pages_of_leads_follow_one_another_and_searching_finds_what_was_said() {
    let fixture = Fixture::new().await;
    fixture.lead_of(b"one", "Maud Ekström", "Ekström Berries", MAUD).await;
    fixture.lead_of(b"two", "Lee Marsh", "Marsh 100%_Fish", "lee@marshfish.example").await;
    // Copies with other names and moments, more than one page holds.
    let mut db = PgConnection::connect(&fixture.url).await.unwrap();
    sqlx::query(
        "insert into leads (id, workspace_id, dialogue_id, contact_id, company_id, queue_id, owner_id, decision,
         filed_at, shows, name, search, band_rank, status, next_what, next_at, top)
         select gen_random_uuid(), l.workspace_id, l.dialogue_id, l.contact_id, l.company_id, l.queue_id, l.owner_id,
            l.decision,
            l.filed_at - (n % 7) * interval '1 minute',
            l.shows, 'Copy ' || n, 'copy ' || n, n % 3,
            case n % 5 when 0 then 'lost' when 1 then 'trying' else 'new' end,
            'call', l.filed_at - (n % 7) * interval '1 minute', n % 3 = 2
         from leads l, generate_series(1, 250) n where l.name = 'Lee Marsh'",
    )
    .execute(&mut db)
    .await
    .unwrap();
    let page = async |filter, after: Option<&str>| {
        fixture.store.leads(&fixture.home.author, &LeadQuery { filter, search: "", look: &PLAIN, after }).await.unwrap()
    };
    let (mut after, mut all, mut lengths) = (None::<String>, Vec::new(), Vec::new());
    loop {
        let read = page(LeadFilter::All, after.as_deref()).await;
        lengths.push(read.leads.len());
        all.extend(read.leads);
        after = read.next;
        if after.is_none() {
            break;
        }
    }
    assert_eq!(lengths, [100, 100, 52]);
    let key = |lead: &lumbo_store::LeadRow| {
        let group = match lead.status {
            status if !status.is_open() => 3,
            LeadStatus::New if lead.band_rank == 2 => 0,
            _ => 1,
        };
        (group, -lead.band_rank, lead.filed_at, lead.id)
    };
    assert!(all.windows(2).all(|two| key(&two[0]) < key(&two[1])), "in the order to call, none twice");
    let found = async |search: &str| {
        let query = LeadQuery { filter: LeadFilter::All, search, look: &PLAIN, after: None };
        let mut names: Vec<String> = fixture
            .store
            .leads(&fixture.home.author, &query)
            .await
            .unwrap()
            .leads
            .into_iter()
            .filter_map(|lead| lead.name)
            .collect();
        names.sort();
        names
    };
    assert_eq!(found("EKSTROM").await, ["Maud Ekström"]);
    assert_eq!(found("marshfish.example").await, ["Lee Marsh"]);
    assert_eq!(found("100%_f").await, ["Lee Marsh"], "signs stand for themselves");
    assert_eq!(found("250 pallets").await, ["Lee Marsh", "Maud Ekström"]);
    assert_eq!(found("nobody").await, Vec::<String>::new());
    let forged = fixture
        .store
        .leads(&fixture.home.author, &LeadQuery { filter: LeadFilter::All, search: "", look: &PLAIN, after: Some("x") })
        .await;
    assert!(matches!(forged, Err(StoreError::NotFound(_))));
    assert_eq!(
        fixture
            .store
            .leads(&fixture.other.author, &LeadQuery { filter: LeadFilter::All, search: "", look: &PLAIN, after: None })
            .await
            .unwrap()
            .leads
            .len(),
        0
    );
}
