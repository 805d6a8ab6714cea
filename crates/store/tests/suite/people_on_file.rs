//! Contacts and companies as people look at them; leads that were left unfinished; what is erased, by hand and by time.

#![allow(clippy::unwrap_used, clippy::panic, reason = "helpers of tests are tests")]

use crate::common::{Fixture, now};
use jiff::{SignedDuration, Timestamp};
use lumbo_deliver::webhook::EventKind;
use lumbo_records::{AlsoGiven, LeadStatus, Source, Standing};
use lumbo_route::words;
use lumbo_store::{
    AnswersPlace, AnswersQuery, CompanyChange, ContactChange, DestinationChange, DestinationKind, Ended, HowEnded,
    JobKind, Keeping, LeadFilter, StoreError,
};
use sqlx::{Connection, PgConnection};
use uuid::Uuid;

/// Gives an address and stops at the question for the number.
const LEFT: [&str; 8] = [
    "Blast freezing",
    "frozen",
    "yes",
    "250",
    "owner",
    "Maud Ekström",
    "Ekström Berries",
    "maud@ekstromberries.example",
];

async fn conversation(fixture: &Fixture, token: &[u8]) -> Uuid {
    let mut db = PgConnection::connect(&fixture.url).await.unwrap();
    sqlx::query_scalar("select id from conversations where token_hash = $1")
        .bind(token)
        .fetch_one(&mut db)
        .await
        .unwrap()
}

fn move_to(fixture: &Fixture, at: Timestamp) {
    fixture.clock.advance(at.duration_since(fixture.clock.now()));
}

/// Everything that the home workspace has written down anywhere, as text.
async fn everything(fixture: &Fixture) -> String {
    let mut db = PgConnection::connect(&fixture.url).await.unwrap();
    let tables: Vec<String> = sqlx::query_scalar(
        "select c.table_name::text from information_schema.columns c join information_schema.tables t using (table_name)
         where c.table_schema = 'public' and c.column_name = 'workspace_id' and t.table_type = 'BASE TABLE'",
    )
    .fetch_all(&mut db)
    .await
    .unwrap();
    assert!(tables.len() > 20, "{tables:?}");
    let mut all = String::new();
    for table in tables {
        let query = sqlx::AssertSqlSafe(format!(
            "select coalesce(string_agg(t::text, ' '), '') from {table} t where workspace_id = $1"
        ));
        let text: String = sqlx::query_scalar(query).bind(fixture.home.workspace).fetch_one(&mut db).await.unwrap();
        all.push_str(&text);
    }
    all
}

#[tokio::test]
async fn who_leaves_and_can_be_reached_becomes_a_lead_once_and_the_same_one_when_they_come_back() {
    let fixture = Fixture::new().await;
    let home = &fixture.home;
    let last = fixture.talk(b"one", &LEFT).await;
    let id = conversation(&fixture, b"one").await;
    let jobs = fixture.store.take_jobs(&[JobKind::Unfinished], 10).await.unwrap();
    assert!(jobs.is_empty(), "not yet");
    // The dialogue of this fixture ends by silence after 30 minutes: both are due at once, and whichever comes first
    // files.
    move_to(&fixture, now() + SignedDuration::from_mins(29));
    assert!(matches!(fixture.store.file_unfinished(home.workspace, id).await.unwrap(), Ended::Later(_)));
    move_to(&fixture, now() + SignedDuration::from_mins(30));
    let jobs = fixture.store.take_jobs(&[JobKind::Unfinished], 10).await.unwrap();
    assert_eq!(jobs.iter().map(|job| job.subject).collect::<Vec<_>>(), [id]);
    assert_eq!(fixture.store.file_unfinished(home.workspace, id).await.unwrap(), Ended::Done);
    // Done again it is the same.
    fixture.store.file_unfinished(home.workspace, id).await.unwrap();
    let row = fixture.leads(&home.author).await.remove(0);
    assert_eq!((fixture.count("leads").await, row.unfinished, row.status), (1, true, LeadStatus::New));
    assert_eq!((row.name.as_deref(), row.owner.is_some()), (Some("Maud Ekström"), true));
    assert_eq!(fixture.leads_by(&home.author, LeadFilter::Unfinished, "").await.len(), 1);
    let detail = fixture.store.lead(&home.author, row.id).await.unwrap();
    let left_at = detail.left_at.unwrap();
    assert!(left_at.contains("number"), "{left_at}");
    assert!(detail.log.iter().any(|line| line.what.contains(&left_at)), "{:?}", detail.log);
    // Back within the week, they finish: the same lead, unfinished no longer.
    move_to(&fixture, now() + SignedDuration::from_hours(40));
    let input = lumbo_dialogue::talk::ProspectMessage {
        id: "back".into(),
        expects: last.view.sequence + 1,
        body: lumbo_dialogue::talk::ProspectInput::Reply { text: "020 7946 0588".into() },
    };
    fixture.store.take_input(b"one", input, fixture.clock.now()).await.unwrap();
    let row = fixture.leads(&home.author).await.remove(0);
    assert_eq!((fixture.count("leads").await, row.unfinished), (1, false));
    let detail = fixture.store.lead(&home.author, row.id).await.unwrap();
    assert_eq!((detail.left_at, detail.phone.as_deref()), (None, Some("+442079460588")));
    assert!(detail.log.iter().any(|line| line.what.starts_with("Came back and finished")), "{:?}", detail.log);
    assert!(fixture.leads_by(&home.author, LeadFilter::Unfinished, "").await.is_empty());
}

#[tokio::test]
async fn nobody_becomes_a_lead_who_cannot_be_reached() {
    let fixture = Fixture::new().await;
    fixture.talk(b"one", &LEFT[..6]).await;
    let id = conversation(&fixture, b"one").await;
    move_to(&fixture, now() + SignedDuration::from_hours(2));
    assert_eq!(fixture.store.file_unfinished(fixture.home.workspace, id).await.unwrap(), Ended::Done);
    assert_eq!(fixture.count("leads").await, 0);
    // Another workspace's job finds nothing.
    assert_eq!(fixture.store.file_unfinished(fixture.other.workspace, id).await.unwrap(), Ended::Done);
}

#[tokio::test]
async fn a_contact_shows_who_they_are_where_it_came_from_and_what_a_person_changed() {
    let fixture = Fixture::new().await;
    let (store, home) = (&fixture.store, &fixture.home);
    fixture.lead(b"one").await;
    let row = store.contacts(&home.author, "ekst", None).await.unwrap().contacts.remove(0);
    assert_eq!(
        (row.name.as_deref(), row.company.as_deref(), row.leads, row.open),
        (Some("Maud Ekström"), Some("Ekström Berries"), 1, 1)
    );
    let contact = store.contact(&home.author, row.id).await.unwrap();
    assert_eq!(contact.leads.len(), 1);
    let email = contact.values.iter().find(|value| value.field == "@email").unwrap();
    assert!(matches!(email.source, Source::Conversation(_)));
    assert_eq!(email.from.as_deref(), Some("Storage enquiry"));
    let owner = home.reps.iter().find(|rep| Some(&rep.name) == row.owner.as_ref()).unwrap();
    let change = ContactChange { what: AlsoGiven::Name, value: "Maud Ekström-Lind".into() };
    let changed = store.change_contact(owner, row.id, &change).await.unwrap();
    let name = changed.values.iter().find(|value| value.field == "@name").unwrap();
    assert_eq!((changed.name.as_deref(), name.source), (Some("Maud Ekström-Lind"), Source::Person(owner.id)));
    assert_eq!((name.from.as_deref(), &name.before), (Some(owner.name.as_str()), &Some("Maud Ekström".into())));
    // The lead still shows what its own conversation said.
    assert_eq!(fixture.leads(&home.author).await[0].name.as_deref(), Some("Maud Ekström"));
    // An address that is another contact's is refused.
    fixture.lead_of(b"two", "Lee Marsh", "Marsh Fish", "lee@marshfish.example").await;
    let taken = ContactChange { what: AlsoGiven::Email, value: "lee@marshfish.example".into() };
    assert!(matches!(store.change_contact(owner, row.id, &taken).await, Err(StoreError::Conflict(_))));
}

#[tokio::test]
async fn contacts_and_companies_are_seen_by_those_who_see_a_lead_of_theirs() {
    let fixture = Fixture::new().await;
    let (store, home, other) = (&fixture.store, &fixture.home, &fixture.other);
    fixture.lead(b"one").await;
    let contact = store.contacts(&home.author, "", None).await.unwrap().contacts.remove(0).id;
    let company = store.companies(&home.author, "", None).await.unwrap().companies.remove(0).id;
    for stranger in [&other.author, &other.reps[0]] {
        assert!(store.contacts(stranger, "", None).await.unwrap().contacts.is_empty());
        assert!(store.companies(stranger, "", None).await.unwrap().companies.is_empty());
        assert!(matches!(store.contact(stranger, contact).await, Err(StoreError::NotFound(_))));
        assert!(matches!(store.company(stranger, company).await, Err(StoreError::NotFound(_))));
        assert!(store.change_company(stranger, company, &CompanyChange::default()).await.is_err());
        assert!(store.erase_contact(stranger, contact).await.is_err());
        assert!(store.erasure_of(stranger.workspace_id, contact).await.is_err());
        assert!(store.export_contact(stranger, contact).await.is_err());
    }
    // Both reps are members of the queue; one who is of none sees nothing.
    let mut db = PgConnection::connect(&fixture.url).await.unwrap();
    sqlx::query("delete from queue_members").execute(&mut db).await.unwrap();
    sqlx::query("update leads set owner_id = $1").bind(home.reps[0].id).execute(&mut db).await.unwrap();
    assert!(store.contact(&home.reps[0], contact).await.is_ok());
    assert!(matches!(store.contact(&home.reps[1], contact).await, Err(StoreError::NotFound(_))));
    assert!(store.contacts(&home.reps[1], "", None).await.unwrap().contacts.is_empty());
    assert!(store.company(&home.reps[1], company).await.is_err());
}

#[tokio::test]
async fn lists_by_name_go_on_behind_the_last_of_a_page() {
    let fixture = Fixture::new().await;
    let mut db = PgConnection::connect(&fixture.url).await.unwrap();
    sqlx::query(
        "insert into contacts (id, workspace_id, name, made_at)
         select gen_random_uuid(), $1, 'Person ' || lpad(n::text, 3, '0'), now() from generate_series(1, 230) n",
    )
    .bind(fixture.home.workspace)
    .execute(&mut db)
    .await
    .unwrap();
    let (mut names, mut after) = (Vec::new(), None);
    loop {
        let page = fixture.store.contacts(&fixture.home.author, "", after.as_deref()).await.unwrap();
        names.extend(page.contacts.into_iter().filter_map(|row| row.name));
        after = page.next;
        if after.is_none() {
            break;
        }
    }
    assert_eq!((names.len(), names[0].as_str(), names[229].as_str()), (230, "Person 001", "Person 230"));
    assert!(names.is_sorted());
    assert!(fixture.store.contacts(&fixture.home.author, "", Some("x")).await.is_err());
    assert_eq!(fixture.store.contacts(&fixture.home.author, "person 02", None).await.unwrap().contacts.len(), 10);
    assert!(fixture.store.contacts(&fixture.home.author, "%", None).await.unwrap().contacts.is_empty());
}

#[tokio::test]
async fn whoever_looks_after_a_company_gets_its_next_lead_and_a_competitor_s_takes_no_turn() {
    let fixture = Fixture::new().await;
    let (store, home) = (&fixture.store, &fixture.home);
    fixture.lead(b"one").await;
    let first = fixture.leads(&home.author).await.remove(0);
    let company = store.companies(&home.author, "", None).await.unwrap().companies.remove(0).id;
    // The one who did not get the first.
    let udo = home.reps.iter().find(|rep| Some(&rep.name) != first.owner.as_ref()).unwrap();
    let change = CompanyChange { owner: Some(Some(udo.id)), ..CompanyChange::default() };
    let changed = store.change_company(&home.author, company, &change).await.unwrap();
    assert_eq!(changed.owner, Some((udo.id, udo.name.clone())));
    for (token, name) in [(b"two", "Nils"), (b"tre", "Liv"), (b"for", "Bo")] {
        let email = format!("{}@ekstromberries.example", name.to_lowercase());
        fixture.lead_of(token, &format!("{name} Ekström"), "Ekström Berries", &email).await;
    }
    let theirs = fixture.leads(&home.author).await;
    let theirs: Vec<_> = theirs.iter().filter(|lead| lead.id != first.id).collect();
    assert!(theirs.len() == 3 && theirs.iter().all(|lead| lead.owner.as_ref() == Some(&udo.name)), "{theirs:?}");
    let says = words::says(&store.lead(&home.author, theirs[0].id).await.unwrap().decision, &|_| None);
    assert!(
        says.iter().any(|step| *step == format!("{0} looks after Ekström Berries: it is {0}’s", udo.name)),
        "{says:?}"
    );
    // An author takes no leads.
    let author = CompanyChange { owner: Some(Some(home.author.id)), ..CompanyChange::default() };
    assert!(matches!(store.change_company(&home.author, company, &author).await, Err(StoreError::Conflict(_))));
    let competitor = CompanyChange { standing: Some(Standing::Competitor), ..CompanyChange::default() };
    store.change_company(&home.author, company, &competitor).await.unwrap();
    fixture.lead_of(b"fiv", "Kaj Ekström", "Ekström Berries", "kaj@ekstromberries.example").await;
    let kaj = fixture.leads(&home.author).await.into_iter().find(|lead| lead.name.as_deref() == Some("Kaj Ekström"));
    let kaj = kaj.unwrap();
    assert_eq!((kaj.owner, kaj.queue), (None, None));
    let says = words::says(&store.lead(&home.author, kaj.id).await.unwrap().decision, &|_| None);
    assert!(says.iter().any(|step| step.contains("Ekström Berries is a competitor")), "{says:?}");
}

#[tokio::test]
async fn an_erased_person_is_nowhere_any_more_and_the_numbers_stand() {
    let fixture = Fixture::new().await;
    let (store, home) = (&fixture.store, &fixture.home);
    fixture.lead(b"one").await;
    // They talked once more, and left their address without a lead coming of it.
    let mut quiet = LEFT;
    quiet[5] = "M Ekström";
    fixture.talk(b"two", &quiet).await;
    fixture.lead_of(b"three", "Lee Marsh", "Marsh Fish", "lee@marshfish.example").await;
    let row = fixture.leads(&home.author).await.into_iter().find(|lead| lead.name.as_deref() == Some("Maud Ekström"));
    let row = row.unwrap();
    let rep = home.reps.iter().find(|rep| Some(&rep.name) == row.owner.as_ref()).unwrap();
    store.add_note(rep, row.id, "Maud prefers mornings").await.unwrap();
    let contact = store.contacts(&home.author, "maud", None).await.unwrap().contacts.remove(0).id;
    let held = serde_json::to_string(&store.export_contact(&home.author, contact).await.unwrap()).unwrap();
    for word in ["Maud Ekström", "maud@ekstromberries.example", "+442079460588", "Maud prefers mornings"] {
        assert!(held.contains(word), "{word} is held, and not told");
    }
    let before = everything(&fixture).await;
    let words = ["Maud", "Ekström", "ekstromberries", "+442079460588", "7946 0588", "prefers mornings"];
    assert!(words.iter().all(|word| before.contains(word)));
    let counted = store.erasure_of(home.workspace, contact).await.unwrap();
    assert_eq!((counted.leads, counted.conversations), (1, 2));
    let done = store.erase_contact(&home.author, contact).await.unwrap();
    assert_eq!((done.leads, done.conversations), (1, 2));
    let after = everything(&fixture).await;
    for word in words {
        assert!(!after.contains(word), "“{word}” is still there: …{}…", around(&after, word));
    }
    assert!(after.contains("Lee Marsh"), "others stay");
    // What the numbers need stays; the list shows it no more.
    assert_eq!((fixture.count("leads").await, fixture.count("conversations").await), (2, 3));
    assert!(fixture.leads(&home.author).await.iter().all(|lead| lead.name.as_deref() == Some("Lee Marsh")));
    let gone = store.lead(&home.author, row.id).await.unwrap();
    assert_eq!((gone.row.status, gone.row.total, gone.row.band.clone()), (LeadStatus::Junk, row.total, row.band));
    assert!(gone.fields.is_empty() && gone.transcript.is_empty());
    assert!(matches!(store.contact(&home.author, contact).await, Err(StoreError::NotFound(_))));
    assert!(matches!(store.erase_contact(&home.author, contact).await, Err(StoreError::NotFound(_))), "once");
    // Their tokens open nothing; what waited for their silence finds nothing to do.
    assert!(store.resume(b"one").await.is_err() && store.resume(b"two").await.is_err());
    let query = AnswersQuery::default();
    let rows = store.answers(home.workspace, home.dialogue, &query, AnswersPlace::first(), 10).await.unwrap();
    assert_eq!(rows.iter().filter(|row| row.erased && row.state.values.is_empty()).count(), 2);
    assert_eq!(store.count_answers(home.workspace, home.dialogue, &query).await.unwrap().all, 3);
    // The same person can come again, as somebody new.
    fixture.lead(b"four").await;
    assert_eq!(store.contacts(&home.author, "maud", None).await.unwrap().contacts.len(), 1);
}

#[tokio::test]
async fn every_place_that_may_have_got_a_lead_is_told_that_its_person_was_erased() {
    let fixture = Fixture::new().await;
    let (store, home) = (&fixture.store, &fixture.home);
    let add = async |name: &str, dialogues: Vec<Uuid>| {
        let id = Uuid::now_v7();
        let change = DestinationChange {
            id: None,
            revision: 0,
            name: name.into(),
            kind: DestinationKind::Webhook,
            address: "https://receiver.example/x".into(),
            events: vec![EventKind::LeadFiled],
            dialogues,
            from_rank: None,
        };
        store.put_destination(&home.author, id, &change, None).await.unwrap();
        id
    };
    let got = add("got it", Vec::new()).await;
    let elsewhere = add("of another dialogue", vec![Uuid::from_u128(1)]).await;
    fixture.lead(b"one").await;
    let mut db = PgConnection::connect(&fixture.url).await.unwrap();
    // The log is kept for a month: what went there before is not in it any more.
    sqlx::query("delete from sendings").execute(&mut db).await.unwrap();
    fixture.clock.advance(SignedDuration::from_hours(1));
    let later = add("came later", Vec::new()).await;
    let contact = store.contacts(&home.author, "maud", None).await.unwrap().contacts.remove(0).id;
    assert_eq!(store.erasure_of(home.workspace, contact).await.unwrap().told, 1);
    assert_eq!(store.erase_contact(&home.author, contact).await.unwrap().told, 1);
    let told: Vec<(Uuid, String)> =
        sqlx::query_as("select destination_id, event from sendings order by number").fetch_all(&mut db).await.unwrap();
    assert_eq!(told, [(got, "contact.erased".to_owned())], "not {elsewhere}, not {later}");
}

/// What stands around a word.
fn around(text: &str, word: &str) -> String {
    let at = text.find(word).unwrap_or(0);
    let from = text.char_indices().map(|(place, _)| place).rfind(|place| *place + 60 <= at).unwrap_or(0);
    text[from..].chars().take(160).collect()
}

#[tokio::test]
async fn what_has_had_its_time_is_erased_and_nothing_else() {
    let fixture = Fixture::new().await;
    let (store, home) = (&fixture.store, &fixture.home);
    fixture.talk(b"looked", &LEFT[..4]).await;
    fixture.talk(b"left", &LEFT).await;
    fixture.lead_of(b"lead", "Lee Marsh", "Marsh Fish", "lee@marshfish.example").await;
    let day = |days: i64| now() + SignedDuration::from_hours(24 * days);
    move_to(&fixture, day(0) + SignedDuration::from_mins(31));
    let left = conversation(&fixture, b"left").await;
    store.file_unfinished(home.workspace, left).await.unwrap();
    let keeping = Keeping { unreached_days: 30, unfinished_days: 90, lead_months: 24 };
    assert_eq!(store.keeping(home.workspace).await.unwrap(), keeping, "the defaults");
    let named = async || {
        let mut names: Vec<_> = fixture.leads(&home.author).await.into_iter().filter_map(|lead| lead.name).collect();
        names.sort();
        names
    };
    let erased = async || {
        let mut db = PgConnection::connect(&fixture.url).await.unwrap();
        let query = "select count(*) from conversations where erased_at is not null";
        sqlx::query_scalar::<_, i64>(query).fetch_one(&mut db).await.unwrap()
    };
    move_to(&fixture, day(29));
    assert!(!store.erase_old(home.workspace).await.unwrap());
    assert_eq!((erased().await, named().await.len()), (0, 2));
    move_to(&fixture, day(31));
    store.erase_old(home.workspace).await.unwrap();
    assert_eq!((erased().await, named().await.len()), (1, 2), "of whom no lead came");
    move_to(&fixture, day(92));
    store.erase_old(home.workspace).await.unwrap();
    assert_eq!((erased().await, named().await), (2, vec!["Lee Marsh".to_owned()]), "and who left unfinished");
    assert!(!everything(&fixture).await.contains("ekstromberries"));
    move_to(&fixture, day(729));
    store.erase_old(home.workspace).await.unwrap();
    assert_eq!(named().await.len(), 1);
    move_to(&fixture, day(732));
    store.erase_old(home.workspace).await.unwrap();
    assert_eq!((erased().await, named().await.len(), fixture.count("leads").await), (3, 0, 2));
    assert!(!everything(&fixture).await.contains("Marsh"));
    // The other workspace was never looked at.
    assert!(!store.erase_old(fixture.other.workspace).await.unwrap());
}

#[tokio::test]
async fn a_workspace_s_own_time_counts_and_the_job_for_it_is_set_once() {
    let fixture = Fixture::new().await;
    let (store, home) = (&fixture.store, &fixture.home);
    fixture.talk(b"looked", &LEFT[..4]).await;
    let keeping = Keeping { unreached_days: 400, unfinished_days: 10, lead_months: 1 };
    store.change_keeping(&home.author, keeping).await.unwrap();
    assert_eq!(store.keeping(home.workspace).await.unwrap(), keeping);
    assert_ne!(store.keeping(fixture.other.workspace).await.unwrap(), keeping);
    move_to(&fixture, now() + SignedDuration::from_hours(24 * 399));
    store.erase_old(home.workspace).await.unwrap();
    assert!(everything(&fixture).await.contains("Blast freezing"));
    assert!(store.begin_keeping(home.workspace, Keeping { unreached_days: 0, ..keeping }).await.is_err());
    store.tidy().await.unwrap();
    store.tidy().await.unwrap();
    assert!(store.take_jobs(&[JobKind::Retain], 10).await.unwrap().is_empty(), "after a week, for the first time");
    fixture.clock.advance(SignedDuration::from_hours(24 * 7));
    let jobs = store.take_jobs(&[JobKind::Retain], 10).await.unwrap();
    let mut whose: Vec<Uuid> = jobs.iter().map(|job| job.workspace).collect();
    whose.sort();
    let mut both = vec![home.workspace, fixture.other.workspace];
    both.sort();
    assert_eq!(whose, both);
}

#[tokio::test]
async fn every_conversation_is_found_by_how_it_ended_where_it_stands_and_when_it_began() {
    let fixture = Fixture::new().await;
    let (store, home) = (&fixture.store, &fixture.home);
    fixture.lead(b"lead").await;
    move_to(&fixture, now() + SignedDuration::from_hours(30));
    fixture.talk(b"looking", &["just looking"]).await;
    fixture.talk(b"open", &LEFT[..3]).await;
    let found = async |query: AnswersQuery| {
        store.answers(home.workspace, home.dialogue, &query, AnswersPlace::first(), 10).await.unwrap()
    };
    let all = found(AnswersQuery::default()).await;
    assert_eq!(all.len(), 3);
    assert!(all.is_sorted_by(|one, other| one.started_at >= other.started_at), "the newest first");
    let stands = all.iter().find_map(|row| row.state.asking.as_ref()).unwrap().turn.clone();
    assert_eq!(found(AnswersQuery { turn: Some(stands), ..AnswersQuery::default() }).await.len(), 1);
    assert_eq!(found(AnswersQuery { ended: Some(HowEnded::Open), ..AnswersQuery::default() }).await.len(), 1);
    assert_eq!(found(AnswersQuery { ended: Some(HowEnded::Left), ..AnswersQuery::default() }).await.len(), 0);
    let leads = found(AnswersQuery { lead: Some(true), ..AnswersQuery::default() }).await;
    assert!(leads.len() == 1 && leads[0].lead.is_some() && leads[0].total.is_some());
    let HowEnded::With(outcome) = leads[0].ended.clone() else { panic!("{:?}", leads[0].ended) };
    let same = AnswersQuery { ended: Some(HowEnded::With(outcome)), ..AnswersQuery::default() };
    assert_eq!(found(same.clone()).await.len(), 1);
    let count = store.count_answers(home.workspace, home.dialogue, &same).await.unwrap();
    assert_eq!((count.all, count.ended, count.left, count.leads), (1, 1, 0, 1));
    let later = AnswersQuery { from: Some(now() + SignedDuration::from_hours(1)), ..AnswersQuery::default() };
    assert_eq!(found(later).await.len(), 2);
    let earlier = AnswersQuery { until: Some(now() + SignedDuration::from_hours(1)), ..AnswersQuery::default() };
    assert_eq!(found(earlier).await.len(), 1);
    assert_eq!(found(AnswersQuery { release: Some(2), ..AnswersQuery::default() }).await.len(), 0);
    // A page goes on behind the last.
    let one = store.answers(home.workspace, home.dialogue, &AnswersQuery::default(), AnswersPlace::first(), 1).await;
    let one = one.unwrap();
    let rest =
        store.answers(home.workspace, home.dialogue, &AnswersQuery::default(), one[0].place(), 10).await.unwrap();
    assert!(rest.len() == 2 && rest.iter().all(|row| row.id != one[0].id));
    // To be read with everything that happened, in its own workspace and dialogue only.
    let read = store.conversation(home.workspace, home.dialogue, leads[0].id).await.unwrap();
    assert_eq!(read.events.len(), read.row.state.events as usize);
    assert!(store.conversation(fixture.other.workspace, home.dialogue, leads[0].id).await.is_err());
    assert!(store.conversation(home.workspace, fixture.other.dialogue, leads[0].id).await.is_err());
    let elsewhere = store.answers(fixture.other.workspace, home.dialogue, &same, AnswersPlace::first(), 10).await;
    assert!(elsewhere.unwrap().is_empty());
}
