//! Outlines with one fault each, found at its place, and their mended twins, in which it is not found.
#![allow(clippy::unwrap_used, clippy::panic, reason = "helpers of tests are tests")]

use lumbo_checks::{Finding, check_fully};
use lumbo_dialogue::file::load;
use serde_json::{Value, json};

fn findings(file: &Value) -> Vec<Finding> {
    let dialogue = load(&file.to_string()).unwrap_or_else(|error| panic!("{error}: {file}"));
    check_fully(&dialogue, "2026-11-23T09:00:00Z".parse().unwrap())
}

/// The fault is found at its place; in the twin it is found nowhere.
fn found(key: &str, at: &str, fault: &Value, mended: &Value) -> Finding {
    let there = findings(fault);
    let finding = there.iter().find(|finding| finding.key == key && finding.at == at);
    let finding = finding.unwrap_or_else(|| panic!("{key} at {at} is not in {there:#?}")).clone();
    let twin = findings(mended);
    assert!(twin.iter().all(|finding| finding.key != key), "{key} is still in {twin:#?}");
    finding
}

/// An outline for a firm that hires out boats, with nothing wrong: what, how many, when, who.
fn boats() -> Value {
    let option = |key: &str| json!({"key": key, "label": {"en": key}});
    let text = |words: &str| json!({"text": {"en": words}});
    json!({
        "format": "lumbo.dialogue/1", "id": "boats", "title": "Boats", "language": "en",
        "opening": {"say": {"en": "Hello"}, "button": {"en": "Go"}},
        "outcomes": [{"id": "lead", "label": "Lead", "class": "lead"}, {"id": "none", "label": "None",
            "class": "looking"}],
        "fields": [
            {"id": "f_boat", "key": "boat", "label": "Boat", "type": "choice", "options": [option("canoe"),
                option("barge")]},
            {"id": "f_people", "key": "people", "label": "People", "type": "whole_number"},
            {"id": "f_days", "key": "days", "label": "Days", "type": "whole_number"},
            {"id": "f_price", "key": "price", "label": "Price", "type": "whole_number"},
            {"id": "f_email", "key": "email", "label": "E-mail", "type": "email", "personal": true},
            {"id": "f_yes", "key": "agree", "label": "Agreement", "type": "consent"}
        ],
        "sections": [{"id": "s", "title": "Start", "then": "carry_on", "turns": [
            {"kind": "ask", "id": "t_boat", "say": text("Which boat?"), "field": "boat", "way_out": {"go_to": "end"},
                "arms": [
                {"id": "a_canoe", "when": {"options": ["canoe"]}, "turns": []},
                {"id": "a_barge", "when": {"options": ["barge"]}, "turns": []}]},
            {"kind": "ask", "id": "t_people", "say": text("How many people?"), "field": "people",
                "way_out": {"go_to": "end"},
                "rules": [{"rule": "range", "min": "1", "max": "60"}]},
            {"kind": "fork", "id": "t_fork", "arms": [
                {"id": "a_many", "when": {"holds": {"compare": {"what": "people", "is": "more_than", "to": "12"}}},
                    "turns": [{"kind": "tell", "id": "t_many", "say": [{"line": text("A large party.")}]}]}]},
            {"kind": "work_out", "id": "t_price", "fills": [{"field": "price", "formula": "people * 20"}]},
            {"kind": "tell", "id": "t_say", "say": [{"line": text("About {price} pounds.")}]},
            {"kind": "ask", "id": "t_email", "say": text("Your e-mail?"), "field": "email",
                "way_out": {"go_to": "end"}},
            {"kind": "file_lead", "id": "t_file"},
            {"kind": "close", "id": "t_end", "outcome": "lead"}]},
            {"id": "end", "title": "End", "then": "carry_on", "turns": [{"kind": "close", "id": "t_none",
                "outcome": "none"}]}],
        "brief": {"needs": [["boat"], ["email"]]},
        "scorecards": [{"id": "card", "title": "Card", "dimensions": [{"id": "d", "title": "Size", "criteria": [
            {"id": "c_people", "gives": {"table": {"field": "people", "rows": [
                {"from": "1", "below": "10", "points": 5}, {"from": "10", "points": 10}]}}},
            {"id": "c_barge", "gives": {"when": {"holds": {"compare": {"what": "boat", "is": "is", "to": "barge"}},
                "points": 5}}}]}],
            "bands": [{"id": "low", "label": "Low"}, {"id": "high", "label": "High", "from": 12}]}],
        "routing": {"rules": [{"id": "r_barge", "holds": {"compare": {"what": "boat", "is": "is", "to": "barge"}},
            "queue": "barges"}],
            "otherwise": "boats"}
    })
}

/// The outline with one part changed.
fn with(change: impl FnOnce(&mut Value)) -> Value {
    let mut file = boats();
    change(&mut file);
    file
}

fn turn(file: &mut Value, place: usize) -> &mut Value {
    &mut file["sections"][0]["turns"][place]
}

#[test]
fn the_outline_itself_has_nothing_wrong() {
    assert_eq!(findings(&boats()), []);
}

#[test]
fn a_condition_that_never_holds_and_one_that_always_does() {
    let holds = |is: &str, to: &str| json!({"holds": {"compare": {"what": "people", "is": is, "to": to}}});
    let never = with(|file| turn(file, 2)["arms"][0]["when"] = holds("more_than", "60"));
    let finding = found("arm_never", "s/t_fork/a_many", &never, &boats());
    assert_eq!(finding.says, "no conversation takes this arm: “People more than 60” never holds here");
    let always = with(|file| turn(file, 2)["arms"][0]["when"] = holds("at_least", "1"));
    found("arm_always", "s/t_fork/a_many", &always, &boats());
}

#[test]
fn two_conditions_that_cannot_hold_together() {
    // Within the arm of large parties a small one is asked for.
    let inner = |to: &str| {
        json!([{"kind": "fork", "id": "t_inner", "arms": [{"id": "a_inner",
            "when": {"holds": {"compare": {"what": "people", "is": "less_than", "to": to}}},
            "turns": [{"kind": "tell", "id": "t_few", "say": [{"line": {"text": {"en": "Few."}}}]}]}]}])
    };
    let fault = with(|file| turn(file, 2)["arms"][0]["turns"] = inner("10"));
    let mended = with(|file| turn(file, 2)["arms"][0]["turns"] = inner("30"));
    found("arm_never", "s/t_inner/a_inner", &fault, &mended);
    assert!(
        findings(&fault).iter().all(|finding| finding.key != "unreachable_turn"),
        "what stands in it is not blamed"
    );
}

#[test]
fn an_otherwise_below_arms_that_take_everything() {
    let arm = |when: Value| json!({"id": "a_rest", "when": when, "turns": []});
    let arms = |file: &mut Value, is: &str| {
        let few = json!({"holds": {"compare": {"what": "people", "is": is, "to": "12"}}});
        turn(file, 2)["arms"]
            .as_array_mut()
            .unwrap()
            .extend([json!({"id": "a_few", "when": few, "turns": []}), arm(json!("otherwise"))]);
    };
    found("arm_never", "s/t_fork/a_rest", &with(|file| arms(file, "at_most")), &with(|file| arms(file, "less_than")));
}

#[test]
fn turns_and_sections_that_no_way_reaches() {
    let line = json!({"kind": "tell", "id": "t_late", "say": [{"line": {"text": {"en": "Late."}}}]});
    let fault = with(|file| file["sections"][0]["turns"].as_array_mut().unwrap().push(line.clone()));
    let mended = with(|file| file["sections"][0]["turns"].as_array_mut().unwrap().insert(7, line));
    found("unreachable_turn", "s/t_late", &fault, &mended);
    // A section that only an arm leads to which nobody can take.
    let go = |to: &str| {
        with(|file| {
            file["sections"].as_array_mut().unwrap().push(json!({"id": "far", "title": "Far", "then": "carry_on",
                "turns": [{"kind": "close", "id": "t_far", "outcome": "none"}]}));
            let when = json!({"holds": {"compare": {"what": "people", "is": "more_than", "to": to}}});
            turn(file, 2)["arms"][0] = json!({"id": "a_many", "when": when, "turns": [], "then": {"go_to": "far"}});
        })
    };
    found("unreachable_section", "far", &go("60"), &go("59"));
}

#[test]
fn a_value_that_may_be_missing_where_it_is_shown_has_a_conversation_that_shows_it() {
    let fault = with(|file| turn(file, 1)["way_out"] = json!("go_on"));
    let finding = found("shown_missing", "s/t_say", &fault, &boats());
    let way = finding.way.unwrap();
    assert_eq!(way.replies[0], "canoe");
    assert_eq!(finding.says, "Price may be missing where this text shows it");
    found("computed_missing", "s/t_price", &fault, &boats());
    // A fallback mends the text, COALESCE the formula.
    let text = with(|file| {
        turn(file, 1)["way_out"] = json!("go_on");
        turn(file, 4)["say"][0]["line"]["text"]["en"] = json!("About {price|a few hundred} pounds.");
    });
    found("shown_missing", "s/t_say", &fault, &text);
    let formula = with(|file| {
        turn(file, 1)["way_out"] = json!("go_on");
        turn(file, 3)["fills"][0]["formula"] = json!("COALESCE(people, 10) * 20");
    });
    found("computed_missing", "s/t_price", &fault, &formula);
}

#[test]
fn what_a_lead_must_carry_and_may_lack() {
    let fault = with(|file| turn(file, 5)["way_out"] = json!("go_on"));
    let finding = found("needed_missing", "s/t_file", &fault, &boats());
    assert_eq!(finding.says, "a lead may be filed here without E-mail, which it must carry");
    let way = finding.way.unwrap();
    assert_eq!(way.replies.last().map(String::as_str), Some("rather not"), "{way:?}");
    // Asked in one arm only.
    let one_arm = with(|file| {
        let ask = file["sections"][0]["turns"].as_array_mut().unwrap().remove(5);
        turn(file, 2)["arms"][0]["turns"].as_array_mut().unwrap().push(ask);
    });
    found("needed_missing", "s/t_file", &one_arm, &boats());
}

#[test]
fn criteria_rule_outs_and_routing_rules_that_nobody_can_meet() {
    let many = json!({"compare": {"what": "people", "is": "at_least", "to": "100"}});
    let some = json!({"compare": {"what": "people", "is": "at_least", "to": "50"}});
    let criterion = |holds: &Value| {
        with(|file| {
            let one = json!({"id": "c_more", "gives": {"when": {"holds": holds, "points": 5}}});
            file["scorecards"][0]["dimensions"][0]["criteria"].as_array_mut().unwrap().push(one);
        })
    };
    found("criterion_never", "c_more", &criterion(&many), &criterion(&some));
    let rule_out = |holds: &Value| {
        with(|file| {
            file["scorecards"][0]["rule_outs"] =
                json!([{"id": "o_more", "holds": holds, "reason": {"en": "Too many"}}]);
        })
    };
    found("rule_out_never", "o_more", &rule_out(&many), &rule_out(&some));
    let must = |holds: &Value| {
        with(|file| file["scorecards"][0]["must_haves"] = json!([{"id": "m_more", "holds": holds, "cap": "low"}]))
    };
    found("must_have_never", "m_more", &must(&many), &must(&some));
    let route = |holds: &Value| with(|file| file["routing"]["rules"][0]["holds"] = holds.clone());
    found("route_never", "r_barge", &route(&many), &route(&some));
    let otherwise = |queue: Value| {
        with(|file| {
            file["routing"]["rules"][0]["holds"] = some.clone();
            file["routing"]["otherwise"] = queue.clone();
        })
    };
    found("route_none", "routing", &otherwise(Value::Null), &otherwise(json!("office")));
    // A table of territories may have no row for a lead: only a queue for the rest mends it.
    let by_table = |queue: Value| {
        with(|file| {
            let table = json!({"table": "places", "field": "boat"});
            file["routing"] = json!({"rules": [{"id": "r_table", "holds": {"all": []}, "table": table}],
                "otherwise": queue});
        })
    };
    found("route_none", "routing", &by_table(Value::Null), &by_table(json!("office")));
    // A band that the card cannot give.
    let band = |from: i64| {
        with(|file| {
            file["scorecards"][0]["bands"][1]["from"] = json!(from);
            turn(file, 6)["arms"] = json!([{"id": "a_high", "when": {"band": ["high"]}, "turns": []}]);
        })
    };
    found("arm_never", "s/t_file/a_high", &band(16), &band(15));
}

#[test]
fn ranges_that_overlap_or_leave_a_gap() {
    let rows = |first: Value, second: Value| {
        with(|file| {
            file["scorecards"][0]["dimensions"][0]["criteria"][0]["gives"]["table"]["rows"] = json!([first, second]);
        })
    };
    let row = |from: &str, below: &str| json!({"from": from, "below": below, "points": 5});
    found("ranges_overlap", "c_people", &rows(row("1", "10"), row("8", "60")), &boats());
    found("ranges_gap", "c_people", &rows(row("1", "10"), row("12", "60")), &boats());
}

#[test]
fn who_they_are_first_and_personal_data_before_consent() {
    let first = with(|file| {
        let turns = file["sections"][0]["turns"].as_array_mut().unwrap();
        let ask = turns.remove(5);
        turns.insert(0, ask);
    });
    found("contact_first", "s/t_email", &first, &boats());
    let consent = json!({"kind": "ask", "id": "t_yes", "say": {"text": {"en": "May we keep this?"}}, "field": "agree"});
    let late = with(|file| file["sections"][0]["turns"].as_array_mut().unwrap().insert(6, consent.clone()));
    let early = with(|file| file["sections"][0]["turns"].as_array_mut().unwrap().insert(5, consent));
    found("before_consent", "s/t_email", &late, &early);
}

#[test]
fn a_lead_that_may_be_filed_with_no_answer_to_a_consent() {
    let asking = |way_out: Value| {
        let consent = json!({"kind": "ask", "id": "t_yes", "say": {"text": {"en": "May we keep this?"}},
            "field": "agree", "way_out": way_out});
        with(|file| file["sections"][0]["turns"].as_array_mut().unwrap().insert(5, consent))
    };
    let finding = found("filed_without_consent", "s/t_file", &asking(json!("go_on")), &asking(json!({"go_to": "end"})));
    assert_eq!(finding.says, "a lead may be filed here with neither a yes nor a no to “Agreement”");
    assert!(finding.way.is_some(), "{finding:?}");
}

#[test]
fn an_arm_for_leads_that_lack_something_stops_the_filing() {
    let fault = with(|file| turn(file, 5)["way_out"] = json!("go_on"));
    let stopped = with(|file| {
        turn(file, 5)["way_out"] = json!("go_on");
        turn(file, 6)["arms"] = json!([{"id": "a_lacks", "when": "lacks", "turns": [], "then": {"go_to": "end"}}]);
    });
    found("needed_missing", "s/t_file", &fault, &stopped);
    // Where nothing can be missing, nobody takes the arm.
    let idle = with(|file| {
        turn(file, 6)["arms"] = json!([{"id": "a_lacks", "when": "lacks", "turns": [], "then": {"go_to": "end"}}]);
    });
    let finding = found("arm_never", "s/t_file/a_lacks", &idle, &stopped);
    assert_eq!(finding.says, "no lead lacks what it must carry here, so this arm is never taken");
}

#[test]
fn a_number_without_bounds_that_a_formula_multiplies() {
    let fault = with(|file| {
        turn(file, 1)["rules"] = json!([]);
    });
    found("unbounded", "s/t_price", &fault, &boats());
    let loosened = with(|file| {
        turn(file, 1)["rules"] = json!([]);
        turn(file, 1)["loosens"] = json!(["range"]);
        file["fields"][1]["rules"] = json!([{"rule": "range", "max": "60"}]);
        file["fields"][1]["may_loosen"] = json!(["range"]);
    });
    let held = with(|file| {
        turn(file, 1)["rules"] = json!([]);
        file["fields"][1]["rules"] = json!([{"rule": "range", "max": "60"}]);
    });
    found("unbounded", "s/t_price", &loosened, &held);
}

#[test]
fn a_rule_that_may_not_be_loosened_is_an_error() {
    let loosens = |may: Value| {
        with(|file| {
            file["fields"][4]["rules"] = json!([{"rule": "company_address"}]);
            file["fields"][4]["may_loosen"] = may;
            turn(file, 5)["loosens"] = json!(["company_address"]);
        })
    };
    let finding = found("rule", "s/t_email", &loosens(json!([])), &loosens(json!(["company_address"])));
    assert!(finding.says.contains("“company_address” of E-mail"), "{}", finding.says);
}

#[test]
fn an_ask_that_takes_nothing_and_a_circle_without_an_end() {
    // The field allows five people at most, the ask nine at least.
    let fault = with(|file| {
        file["fields"][1]["rules"] = json!([{"rule": "range", "max": "5"}]);
        turn(file, 1)["rules"] = json!([{"rule": "range", "min": "9"}]);
    });
    found("takes_nothing", "s/t_people", &fault, &boats());
    let round = |then: Value| {
        with(|file| {
            file["sections"].as_array_mut().unwrap().push(json!({"id": "round", "title": "Round", "then": then,
                "turns": [{"kind": "ask", "id": "t_days", "say": {"text": {"en": "How many days?"}},
                    "field": "days"}]}));
            turn(file, 2)["arms"][0]["then"] = json!({"go_to": "round"});
        })
    };
    found("endless", "round/t_days", &round(json!({"go_to": "round"})), &round(json!({"go_to": "end"})));
}

#[test]
fn a_known_answer_that_is_asked_for_again() {
    let again = |if_known: &str| {
        with(|file| {
            let ask = json!({"kind": "ask", "id": "t_again", "say": {"text": {"en": "And which boat?"}},
                "field": "boat",
                "if_known": if_known, "way_out": {"go_to": "end"}});
            file["sections"][0]["turns"].as_array_mut().unwrap().insert(5, ask);
        })
    };
    found("asked_again", "s/t_again", &again("ask"), &again("skip"));
}

/// Pairs of fields, the second asked for only in an arm of the first, all read again at the end: nothing of them can be
/// put together.
fn tangled(pairs: usize) -> Value {
    let option = |key: &str| json!({"key": key, "label": {"en": key}});
    let options = ["a", "b", "c"].map(option);
    let field = |number: usize| {
        json!({"id": format!("f_{number}"), "key": format!("f{number}"), "label": format!("F{number}"),
            "type": "choice", "options": options})
    };
    let ask = |number: usize, arms: Value| {
        json!({"kind": "ask", "id": format!("t_{number}"), "say": {"text": {"en": "?"}},
            "field": format!("f{number}"), "arms": arms})
    };
    let is = |number: usize, to: &str| json!({"compare": {"what": format!("f{number}"), "is": "is", "to": to}});
    let mut turns: Vec<Value> = (0..pairs)
        .map(|number| {
            let inner = ask(pairs + number, json!([]));
            ask(number, json!([{"id": format!("a_{number}"), "when": {"options": ["a"]}, "turns": [inner]}]))
        })
        .collect();
    turns.extend((0..pairs).map(|number| {
        let holds = json!({"all": [is(number, "a"), is(pairs + number, "b")]});
        json!({"kind": "fork", "id": format!("t_fork{number}"), "arms": [
            {"id": format!("b_{number}"), "when": {"holds": holds}, "turns": []}]})
    }));
    turns.push(json!({"kind": "close", "id": "t_end", "outcome": "lead"}));
    with(|file| {
        file["fields"] = (0..2 * pairs).map(field).collect();
        file["sections"] = json!([{"id": "s", "title": "S", "turns": turns, "then": "carry_on"}]);
        file["brief"] = json!({});
        file["scorecards"] = json!([]);
        file["routing"] = json!({});
    })
}

#[test]
fn what_is_too_much_to_follow_is_named() {
    let finding = found("not_followed", "outline", &tangled(12), &tangled(3));
    assert!(finding.says.starts_with("too much can happen here to follow F"), "{}", finding.says);
}
