//! The calls are held against a customer system in memory, which loses answers, takes records out and has doubles.

use std::collections::BTreeMap;

use serde_json::json;

use super::*;

fn plans() -> RecordPlans {
    let plan = |find: &str, always: Json, if_empty: Json| {
        let map = |json: Json| json.as_object().cloned().unwrap_or_default();
        Some(RecordPlan { find: Some(find.into()), always: map(always), if_empty: map(if_empty) })
    };
    RecordPlans {
        company: plan("heron.example", json!({"domain": "heron.example"}), json!({"name": "Heron"})),
        contact: plan("ana@heron.example", json!({"email": "ana@heron.example", "name": "Ana"}), json!({})),
        lead: plan("l1", json!({"external_id": "l1", "points": 82}), json!({})),
        erase: false,
    }
}

#[derive(Default)]
struct There {
    records: BTreeMap<String, (Holds, Map<String, Json>, Json)>,
    made: usize,
    calls: usize,
}

impl There {
    fn their(&self, id: &str) -> Their {
        Their {
            id: id.into(),
            link: Some(format!("https://there.example/{id}")),
            properties: self.records[id].1.clone(),
        }
    }

    fn call(&mut self, call: &Call) -> Answered {
        self.calls += 1;
        let properties = |body: &Json| body["properties"].as_object().cloned().unwrap_or_default();
        match call {
            Call::Find { object, value } => Answered::Found(
                self.records
                    .iter()
                    .filter(|(_, (of, has, _))| of == object && has.get(object.found_by()) == Some(&json!(value)))
                    .map(|(id, _)| self.their(id))
                    .collect(),
            ),
            Call::Read { id, .. } | Call::Change { id, .. } | Call::Delete { id, .. }
                if !self.records.contains_key(id) =>
            {
                Answered::Gone
            }
            Call::Read { id, .. } => Answered::Record(self.their(id)),
            Call::Create { object, body } => {
                self.made += 1;
                let id = format!("{}{}", object.as_str(), self.made);
                self.records.insert(id.clone(), (*object, properties(body), body["links"].clone()));
                Answered::Record(self.their(&id))
            }
            Call::Change { id, body, .. } => {
                if let Some((_, has, _)) = self.records.get_mut(id) {
                    has.extend(properties(body));
                }
                Answered::Done
            }
            Call::Delete { id, .. } => {
                self.records.remove(id);
                Answered::Done
            }
        }
    }

    /// Goes on until the end, or until an answer is lost after so many calls; gives what is known then.
    fn run(&mut self, plans: &RecordPlans, mut known: Known, lost_after: usize) -> (Known, Next) {
        let mut upsert = Upsert::new(plans.clone(), known.clone());
        for step in 0.. {
            assert!(step < 20, "it comes to an end");
            let Next::Call(call) = upsert.next() else { break };
            let answered = self.call(&call);
            if step == lost_after {
                return (known, Next::Call(call));
            }
            if let Some(written) = upsert.took(answered) {
                known.put(written.object, written.id);
            }
        }
        (known, upsert.next())
    }
}

#[test]
fn records_are_made_in_order_and_name_those_before_them() {
    let mut there = There::default();
    let (known, end) = there.run(&plans(), Known::default(), usize::MAX);
    assert_eq!(end, Next::Done);
    assert_eq!(there.records["lead3"].2, json!({"company": "company1", "contact": "contact2"}));
    assert_eq!(there.records["company1"].1["name"], "Heron");
    assert_eq!(known.lead.as_deref(), Some("lead3"));
    let calls = there.calls;
    let (again, _) = there.run(&plans(), known.clone(), usize::MAX);
    assert_eq!((again, there.made), (known, 3), "the second time nothing is made");
    assert_eq!(there.calls - calls, 4, "the company is read, for what may be empty there; the others are changed");
}

#[test]
fn whatever_answer_is_lost_nothing_is_made_twice() {
    for lost in 0..10 {
        let mut there = There::default();
        let (known, _) = there.run(&plans(), Known::default(), lost);
        let (_, end) = there.run(&plans(), known, usize::MAX);
        assert_eq!((end, there.made, there.records.len()), (Next::Done, 3, 3), "lost after {lost}");
    }
}

#[test]
fn what_stands_there_is_kept_where_it_is_only_to_be_filled() {
    let mut there = There::default();
    let has = json!({"domain": "heron.example", "name": "Heron Foods Ltd", "size": 40});
    there.records.insert("c9".into(), (Holds::Company, has.as_object().cloned().unwrap(), Json::Null));
    let (known, _) = there.run(&plans(), Known::default(), usize::MAX);
    assert_eq!(known.company.as_deref(), Some("c9"));
    assert_eq!(Json::from(there.records["c9"].1.clone()), has);
}

#[test]
fn of_several_that_could_be_it_a_person_picks() {
    let mut there = There::default();
    for id in ["p1", "p2"] {
        let has = json!({"email": "ana@heron.example"});
        there.records.insert(id.into(), (Holds::Contact, has.as_object().cloned().unwrap(), Json::Null));
    }
    let (mut known, end) = there.run(&plans(), Known::default(), usize::MAX);
    let Next::Several { object: Holds::Contact, candidates } = end else { panic!("{end:?}") };
    assert_eq!(candidates.len(), 2);
    assert!(known.company.is_some() && known.lead.is_none());
    known.contact = Some("p2".into());
    let (_, end) = there.run(&plans(), known, usize::MAX);
    assert_eq!(end, Next::Done);
    assert_eq!(there.records["p2"].1["name"], "Ana");
    assert!(!there.records["p1"].1.contains_key("name"));
}

#[test]
fn what_was_taken_out_there_is_looked_up_once_more_and_made_again() {
    let mut there = There::default();
    let (known, _) = there.run(&plans(), Known::default(), usize::MAX);
    there.records.clear();
    let (again, end) = there.run(&plans(), known, usize::MAX);
    assert_eq!((end, there.made, there.records.len()), (Next::Done, 6, 3));
    assert_eq!(there.records[again.lead.as_deref().unwrap()].2["contact"], json!(again.contact));
}

#[test]
fn erasing_takes_the_lead_and_the_person_out_and_leaves_the_firm() {
    let mut there = There::default();
    let (known, _) = there.run(&plans(), Known::default(), usize::MAX);
    let erase = RecordPlans { erase: true, ..RecordPlans::default() };
    let (known, end) = there.run(&erase, known, usize::MAX);
    assert_eq!((end, there.records.len()), (Next::Done, 1));
    assert!(known.contact.is_none() && known.lead.is_none() && known.company.is_some());
    let (_, end) = there.run(&erase, known, usize::MAX);
    assert_eq!(end, Next::Done, "nothing is left to do");
}
