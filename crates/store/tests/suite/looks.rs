//! Lists of leads by what they hold in any field, with columns of choice, sorted by anything.

#![allow(clippy::unwrap_used, clippy::panic, reason = "helpers of tests are tests")]

use lumbo_records::{LeadStatus, ListLook};
use lumbo_store::{LeadFilter, LeadPage, LeadQuery, OutcomeChange, Person, StoreError};
use serde_json::{Value as Json, json};
use sqlx::Executor;

use crate::common::Fixture;

fn look(json: Json) -> ListLook {
    serde_json::from_value(json).unwrap()
}

async fn page(fixture: &Fixture, by: &Person, look: &ListLook, after: Option<&str>) -> Result<LeadPage, StoreError> {
    fixture.store.leads(by, &LeadQuery { filter: LeadFilter::All, search: "", look, after }).await
}

/// First names of the leads that a look shows, in its order.
async fn shown(fixture: &Fixture, json: Json) -> Vec<String> {
    let page = page(fixture, &fixture.home.author, &look(json), None).await.unwrap();
    page.leads.into_iter().map(|lead| lead.name.unwrap().split(' ').next().unwrap().to_owned()).collect()
}

async fn tests(fixture: &Fixture, tests: Json) -> Vec<String> {
    let mut names = shown(fixture, json!({"tests": tests})).await;
    names.sort();
    names
}

/// Ada: frozen, 60 pallets, a phone. Bram: chilled, 250. Ciara: frozen, 900, and lost.
async fn three() -> Fixture {
    let fixture = Fixture::new().await;
    let said = [
        (b"1", "Ada", ["frozen", "no", "60", "later"].as_slice(), "020 7946 0588"),
        (b"2", "Bram", &["chilled", "250", "later"], ">skip"),
        (b"3", "Ciara", &["frozen", "no", "900"], ">skip"),
    ];
    for (token, name, load, phone) in said {
        let (full, firm) = (format!("{name} Quarmby"), format!("{name} Foods"));
        let email = format!("{name}@{name}foods.example").to_lowercase();
        let mut talk = vec!["storage"];
        talk.extend(load);
        talk.extend(["manager", &full, &firm, &email, phone]);
        fixture.talk(token, &talk).await;
    }
    let ciara = fixture.leads_by(&fixture.home.author, LeadFilter::All, "Ciara").await.remove(0);
    let revision = fixture.store.lead(&fixture.home.author, ciara.id).await.unwrap().revision;
    let lost = OutcomeChange {
        revision,
        status: LeadStatus::Lost,
        reason: Some("price".into()),
        amount: None,
        currency: None,
        later_on: None,
    };
    fixture.store.change_outcome(&fixture.home.author, ciara.id, &lost).await.unwrap();
    fixture
}

#[tokio::test]
async fn leads_are_found_by_what_they_hold_in_any_field_and_by_what_they_do_not() {
    let fixture = three().await;
    let found = async |json: Json| tests(&fixture, json).await;
    let pallets = |op: &str, value: &str| json!({"field": "fld_pallets", "op": op, "values": [value]});
    let frozen = |op: &str| json!({"field": "fld_temperature", "op": op, "values": ["frozen"]});
    assert_eq!(found(json!([])).await, ["Ada", "Bram", "Ciara"]);
    assert_eq!(found(json!([pallets("at_least", "250")])).await, ["Bram", "Ciara"], "both ends are included");
    assert_eq!(found(json!([pallets("at_most", "250")])).await, ["Ada", "Bram"]);
    assert_eq!(found(json!([pallets("at_least", "61"), pallets("at_most", "899.5")])).await, ["Bram"]);
    assert_eq!(found(json!([frozen("one_of")])).await, ["Ada", "Ciara"]);
    assert_eq!(found(json!([frozen("none_of")])).await, ["Bram"]);
    assert_eq!(found(json!([frozen("one_of"), pallets("at_least", "100")])).await, ["Ciara"], "all of them");
    assert_eq!(found(json!([{"field": "fld_phone", "op": "known"}])).await, ["Ada"]);
    assert_eq!(found(json!([{"field": "fld_phone", "op": "unknown"}, frozen("one_of")])).await, ["Ciara"]);
    assert_eq!(found(json!([{"field": "fld_company", "op": "has", "values": ["M FOOD"]}])).await, ["Bram"]);
    // Signs stand for themselves.
    assert_eq!(found(json!([{"field": "fld_company", "op": "has", "values": ["%"]}])).await, [""; 0]);
    assert_eq!(found(json!([{"field": "@status", "op": "one_of", "values": ["lost", "won"]}])).await, ["Ciara"]);
    assert_eq!(found(json!([{"field": "@status", "op": "none_of", "values": ["lost"]}])).await, ["Ada", "Bram"]);
    let ina = fixture.home.reps[0].id.to_string();
    let of_ina = found(json!([{"field": "@owner", "op": "one_of", "values": [ina]}])).await;
    let others = found(json!([{"field": "@owner", "op": "none_of", "values": [ina]}])).await;
    assert_eq!(of_ina.len() + others.len(), 3);
    assert!(!of_ina.is_empty() && !others.is_empty());
    assert_eq!(found(json!([{"field": "@filed", "op": "at_least", "values": ["2026-11-24"]}])).await, [""; 0]);
    assert_eq!(found(json!([{"field": "@filed", "op": "at_most", "values": ["2026-11-23"]}])).await.len(), 3);
    assert_eq!(found(json!([{"field": "@tries", "op": "at_least", "values": ["9"]}])).await, [""; 0]);
    assert_eq!(found(json!([{"field": "@score", "op": "at_most", "values": ["1000"]}])).await.len(), 3);
}

#[tokio::test]
async fn nobody_finds_leads_of_another_workspace_or_by_a_field_that_is_not_there() {
    let fixture = three().await;
    let all = look(json!({"tests": [{"field": "fld_phone", "op": "known"}], "sort": {"by": "@filed"}}));
    assert!(page(&fixture, &fixture.other.author, &all, None).await.unwrap().leads.is_empty());
    let gone = look(json!({"tests": [{"field": "fld_gone", "op": "known"}]}));
    let refused = page(&fixture, &fixture.home.author, &gone, None).await;
    assert!(matches!(&refused, Err(StoreError::Wrong(says)) if says.contains("Take this filter out")), "{refused:?}");
    // A place of one order is none of another.
    let plain = look(json!({}));
    let place = Some("s.3.00000000000000000000000000000001");
    assert!(matches!(page(&fixture, &fixture.home.author, &plain, place).await, Err(StoreError::NotFound(_))));
}

#[tokio::test]
async fn a_list_is_sorted_by_any_field_and_has_columns_of_choice() {
    let fixture = three().await;
    let by = |field: &str, down: bool| json!({"sort": {"by": field, "down": down}, "columns": ["fld_pallets"]});
    assert_eq!(shown(&fixture, by("fld_pallets", true)).await, ["Ciara", "Bram", "Ada"]);
    assert_eq!(shown(&fixture, by("fld_pallets", false)).await, ["Ada", "Bram", "Ciara"]);
    assert_eq!(shown(&fixture, by("@company", true)).await, ["Ciara", "Bram", "Ada"]);
    assert_eq!(shown(&fixture, by("@name", false)).await, ["Ada", "Bram", "Ciara"]);
    // Who said nothing comes last either way.
    assert_eq!(shown(&fixture, by("fld_phone", true)).await[0], "Ada");
    assert_eq!(shown(&fixture, by("fld_phone", false)).await[0], "Ada");
    let columns = look(json!({"columns": ["fld_phone", "fld_pallets"], "sort": {"by": "@name"}}));
    let leads = page(&fixture, &fixture.home.author, &columns, None).await.unwrap().leads;
    let cells: Vec<&[String]> = leads.iter().map(|lead| lead.cells.as_slice()).collect();
    assert_eq!(cells[0][1], "60 pallets");
    assert_eq!(cells[1], ["", "250 pallets"]);
}

#[tokio::test]
async fn pages_of_a_sorted_list_neither_repeat_nor_hide_a_lead_though_some_go_meanwhile() {
    let fixture = three().await;
    let mut db = <sqlx::PgConnection as sqlx::Connection>::connect(&fixture.url).await.unwrap();
    let copies = "insert into leads (id, workspace_id, dialogue_id, contact_id, company_id, queue_id, owner_id,
           decision, filed_at, shows, name, search, band_rank, status, next_what, next_at, top)
         select gen_random_uuid(), l.workspace_id, l.dialogue_id, l.contact_id, l.company_id, l.queue_id, l.owner_id,
           l.decision, l.filed_at, l.shows, 'Copy ' || n, 'copy', 0, 'new', 'call', l.filed_at, false
         from leads l, generate_series(1, 240) n where l.name = 'Ada Quarmby';
         insert into lead_values (workspace_id, lead_id, field_id, place, number_value)
           select workspace_id, id, 'fld_pallets', 0, (split_part(name, ' ', 2)::int * 7) % 13
           from leads where name like 'Copy %';";
    db.execute(copies).await.unwrap();
    let sorted = look(json!({"sort": {"by": "fld_pallets", "down": true}, "columns": ["fld_pallets"]}));
    let (mut after, mut all) = (None::<String>, Vec::new());
    loop {
        let read = page(&fixture, &fixture.home.author, &sorted, after.as_deref()).await.unwrap();
        all.extend(read.leads);
        after = read.next;
        if after.is_none() {
            break;
        }
        // One that was shown already leaves the list, and what comes next is counted from the last that was shown.
        sqlx::query("update leads set erased_at = now() where id = $1").bind(all[0].id).execute(&mut db).await.unwrap();
    }
    assert_eq!(all.len(), 243);
    let mut ids: Vec<_> = all.iter().map(|lead| lead.id).collect();
    ids.sort();
    ids.dedup();
    assert_eq!(ids.len(), 243, "none twice");
    let in_order =
        "select number_value::bigint from lead_values v join unnest($1::uuid[]) with ordinality n (id, place)
           on n.id = v.lead_id where v.field_id = 'fld_pallets' order by n.place";
    let shown: Vec<uuid::Uuid> = all.iter().map(|lead| lead.id).collect();
    let pallets: Vec<i64> = sqlx::query_scalar(in_order).bind(shown).fetch_all(&mut db).await.unwrap();
    assert!(pallets.len() == 243 && pallets.is_sorted_by(|one, next| one >= next), "{pallets:?}");
}
