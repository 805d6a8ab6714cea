//! The command line as a program sees it: exit codes and JSON.
#![allow(clippy::unwrap_used, clippy::panic, reason = "helpers of tests are tests")]

use std::io::Write;
use std::process::{Command, Stdio};

use serde_json::{Value, json};

const DEMO: &str = concat!(env!("CARGO_MANIFEST_DIR"), "/../../demo/storage-enquiry.json");

/// Runs the binary; gives the exit code, what it wrote, and what it said on the side.
fn lumbo(arguments: &[&str], input: &[u8]) -> (i32, String, String) {
    let mut child = Command::new(env!("CARGO_BIN_EXE_lumbo"))
        .args(arguments)
        .stdin(Stdio::piped())
        .stdout(Stdio::piped())
        .stderr(Stdio::piped())
        .spawn()
        .unwrap();
    // A command that does not read its input closes the pipe; that is no failure.
    let _ = child.stdin.take().unwrap().write_all(input);
    let output = child.wait_with_output().unwrap();
    (
        output.status.code().unwrap(),
        String::from_utf8(output.stdout).unwrap(),
        String::from_utf8(output.stderr).unwrap(),
    )
}

fn json_lines(text: &str) -> Vec<Value> {
    text.lines().map(|line| serde_json::from_str(line).unwrap()).collect()
}

fn field(spec: &Value, replies: &str) -> Vec<Value> {
    let (code, out, said) = lumbo(&["field", "--spec", &spec.to_string(), "--json"], replies.as_bytes());
    assert_eq!(code, 0, "{said}");
    json_lines(&out)
}

#[test]
fn field_writes_one_line_per_reply() {
    let spec = json!({"type": "email", "rules": [{"rule": "company_address"}], "language": "en"});
    let lines = field(&spec, "it’s pia@harrowpeel.example.\r\n\nx@gmail.com\nnone\n\"a@b.example\\nplease\"\n");
    assert_eq!(
        lines[0],
        json!({"raw": "it’s pia@harrowpeel.example.", "ok": true, "value": "pia@harrowpeel.example",
            "shown": "pia@harrowpeel.example", "heard": {"text": "pia@harrowpeel.example", "start": 5, "end": 27}})
    );
    assert_eq!((&lines[1]["ok"], &lines[1]["failed"]), (&json!(false), &json!(["type"])));
    assert_eq!(
        (&lines[2]["failed"], &lines[2]["heard"]["text"], lines[2].get("value")),
        (&json!(["company_address"]), &json!("x@gmail.com"), None)
    );
    assert_eq!(lines[3]["failed"], json!(["declined"]));
    assert_eq!((&lines[4]["raw"], &lines[4]["value"]), (&json!("a@b.example\nplease"), &json!("a@b.example")));
    assert_eq!(lines.len(), 5);
}

#[test]
fn field_reads_every_type_of_this_version() {
    let options = json!([{"key": "frozen", "label": "Frozen", "also": ["minus 18", "deep freeze"]}, {"key": "chilled",
        "label": "Chilled"}]);
    for (spec, reply, value) in [
        (json!({"type": "choice", "options": options}), "deep freez", json!("frozen")),
        (json!({"type": "yes_no", "language": "de"}), "Ja, klar", json!(true)),
        (
            json!({"type": "whole_number", "unit": "pallet"}),
            "40-50",
            json!({"amount": "45", "low": "40", "high": "50"}),
        ),
        (json!({"type": "phone", "country": "GB"}), "020 7946 0958", json!("+442079460958")),
        (json!({"type": "person_name"}), "I’m Ana Ruiz", json!({"given": "Ana", "family": "Ruiz", "full": "Ana Ruiz"})),
        (json!({"type": "text", "rules": [{"rule": "length", "max": 10}]}), "  two   words ", json!("two words")),
    ] {
        assert_eq!(field(&spec, &format!("{reply}\n"))[0]["value"], value, "{spec}");
    }
    let (lines, spec) = (
        field(&json!({"type": "whole_number", "rules": [{"rule": "range", "min": "1", "max": "10"}]}), "11\n"),
        json!(["range"]),
    );
    assert_eq!((&lines[0]["failed"], &lines[0]["message"]), (&spec, &json!("We heard 11. It should be from 1 to 10.")));
}

#[test]
fn what_cannot_be_done_exits_2_with_one_line() {
    for (arguments, input, says) in [
        (vec!["ways", DEMO], &b""[..], "`lumbo ways` comes in a later version"),
        (vec!["read", "--spec", "{}"], b"", "the spec does not fit: missing field `fields`"),
        (
            vec!["read", "--spec", r#"{"fields": [{"type": "email"}]}"#],
            b"",
            "the spec does not fit: every field needs a key",
        ),
        (
            vec!["field", "--spec", r#"{"type": "email", "colour": "red"}"#],
            b"",
            "the spec does not fit: unknown field `colour`",
        ),
        (
            vec!["field", "--spec", r#"{"type": "email", "rules": [{"rule": "full_name"}]}"#],
            b"",
            "field: the rule full_name does not fit the type email",
        ),
        (vec!["check", "no-such-file.json"], b"", "no-such-file.json cannot be read"),
        (
            vec!["field", "--spec", "{\"type\": \"text\", \"colour\": 1}"],
            b"",
            "the spec does not fit: unknown field `colour`",
        ),
        (vec!["field", "--spec", "{\"type\": \"text\"}"], b"good\nbad \xff\n", "line 2 is not UTF-8"),
        (vec!["rehearse", DEMO, "--replies", "-"], b"storage\n>tick soon\n", "line 2: “>tick soon” is not an input"),
        (vec!["score", DEMO, "--answers", "{\"nothing\": 1}"], b"", "this dialogue has no field “nothing”"),
    ] {
        let (code, out, said) = lumbo(&arguments, input);
        assert_eq!((code, out.as_str()), (2, ""), "{arguments:?}");
        assert!(said.starts_with(says) && said.trim_end().lines().count() == 1, "{arguments:?}: {said}");
    }
}

#[test]
fn check_exits_1_only_for_errors_and_writes_junit() {
    assert_eq!(lumbo(&["check", DEMO], b"").0, 0);
    let mut file: Value = serde_json::from_str(&std::fs::read_to_string(DEMO).unwrap()).unwrap();
    file["sections"][1]["turns"][0]["say"][0]["line"]["text"]["en"] = json!("x".repeat(300));
    assert_eq!(lumbo(&["check", "-"], file.to_string().as_bytes()).0, 0, "a hint is no error");
    file["sections"][0]["then"] = json!({"go_to": "nowhere"});
    let junit = std::env::temp_dir().join(format!("lumbo-junit-{}.xml", std::process::id()));
    let (code, out, _) =
        lumbo(&["check", "-", "--json", "--junit", junit.to_str().unwrap()], file.to_string().as_bytes());
    let findings: Value = serde_json::from_str(&out).unwrap();
    assert_eq!(
        (code, &findings["findings"][0]["key"], &findings["findings"][0]["at"]),
        (1, &json!("target"), &json!("welcome"))
    );
    let xml = std::fs::read_to_string(&junit).unwrap();
    assert!(
        xml.contains(
            "<testcase name=\"target at welcome\"><failure message=\"there is no section “nowhere” to go to\"/>"
        ),
        "{xml}"
    );
    std::fs::remove_file(junit).unwrap();
}

#[test]
fn rehearse_gives_values_score_queue_and_outcome() {
    let replies = "storage\nfrozen\nno\n340\nowner\nPia Lindqvist\nHarrow & Peel\npia@harrowpeel.example\n>skip\n";
    let (code, out, said) = lumbo(
        &["rehearse", DEMO, "--replies", "-", "--seed", "3", "--now", "2026-11-23T10:00:00Z", "--json"],
        replies.as_bytes(),
    );
    assert_eq!(code, 0, "{said}");
    let rehearsal: Value = serde_json::from_str(&out).unwrap();
    assert_eq!(
        (&rehearsal["score"]["total"], &rehearsal["band"], &rehearsal["queue"], &rehearsal["outcome"]),
        (&json!(65), &json!("Warm"), &json!("aldermoor"), &json!("lead"))
    );
    assert_eq!((&rehearsal["values"]["pallets"], &rehearsal["missing"]), (&json!("340"), &json!({"phone": "skipped"})));
    let again = lumbo(
        &["rehearse", DEMO, "--replies", "-", "--seed", "3", "--now", "2026-11-23T10:00:00Z", "--json"],
        replies.as_bytes(),
    );
    assert_eq!(again.1, out, "the same seed and time give the same bytes");
}

#[test]
fn formula_points_at_the_character() {
    let (code, out, _) = lumbo(
        &[
            "formula",
            "--types",
            "{\"pallets\": \"whole_number\", \"cold\": [\"frozen\", \"chilled\"]}",
            "--values",
            "{\"pallets\": \"12\"}",
            "--json",
        ],
        b"pallets * 2\npallets +\ncold = \"warm\"\nIF(cold = \"frozen\", 1, 2)\n1/0\n",
    );
    let lines = json_lines(&out);
    assert_eq!(code, 0);
    assert_eq!(lines[0], json!({"raw": "pallets * 2", "ok": true, "value": "24", "type": "number"}));
    assert_eq!((&lines[1]["ok"], &lines[1]["at"]), (&json!(false), &json!(9)));
    assert_eq!(lines[2]["says"], "cold has no option “warm”; it has frozen, chilled");
    assert_eq!(
        lines[3],
        json!({"raw": "IF(cold = \"frozen\", 1, 2)", "ok": true, "type": "number"}),
        "missing is absent"
    );
    assert_eq!(lines[4]["says"], "it divides by zero");
}

#[test]
fn format_is_stable_and_schema_is_a_schema() {
    let (_, once, _) = lumbo(&["format", DEMO], b"");
    let (_, twice, _) = lumbo(&["format", "-"], once.as_bytes());
    assert_eq!(once, twice);
    let (code, schema, _) = lumbo(&["schema"], b"");
    let schema: Value = serde_json::from_str(&schema).unwrap();
    assert_eq!((code, &schema["$schema"]), (0, &json!("https://json-schema.org/draft/2020-12/schema")));
}

#[test]
fn field_writes_values_of_every_type_as_the_documentation_says() {
    let today = json!("2026-11-23");
    for (spec, reply, value, shown) in [
        (
            json!({"type": "quantity", "unit": "kg"}),
            "2-3 tonnes",
            json!({"amount": "2500", "low": "2000", "high": "3000", "unit": "kg"}),
            "2,000 to 3,000 kg",
        ),
        (
            json!({"type": "money", "currency": "GBP"}),
            "about 2k",
            json!({"amount": "2000", "currency": "GBP"}),
            "£2,000.00",
        ),
        (
            json!({"type": "date", "today": today}),
            "end of Q2",
            json!({"date": "2027-06-30", "precision": "quarter"}),
            "end of Q2 2027",
        ),
        (
            json!({"type": "website"}),
            "see www.harrow.example",
            json!("https://www.harrow.example"),
            "https://www.harrow.example",
        ),
        (json!({"type": "country", "language": "de"}), "Niederlande", json!("NL"), "Niederlande"),
        (
            json!({"type": "choices", "options": [{"key": "a", "label": "Peas"}, {"key": "b", "label": "Fish"}]}),
            "both",
            json!(["a", "b"]),
            "Peas, Fish",
        ),
        (json!({"type": "list"}), "peas and fish", json!(["peas", "fish"]), "peas, fish"),
        (json!({"type": "place"}), "Leeds, UK", json!({"town": "Leeds", "country": "GB"}), "Leeds, United Kingdom"),
        (
            json!({"type": "address"}),
            "12 Mill Lane, Saltwick, AB1 2CD",
            json!({"lines": ["12 Mill Lane"], "town": "Saltwick", "postcode": "AB1 2CD"}),
            "12 Mill Lane, Saltwick, AB1 2CD",
        ),
        (json!({"type": "consent"}), "I agree", json!(true), "Yes"),
        (
            json!({"type": "scale", "options": [{"key": "1", "label": "Low"}, {"key": "5", "label": "High"}]}),
            "high",
            json!("5"),
            "5",
        ),
        (
            json!({"type": "phone", "country": "GB"}),
            "020 7946 0958 ext 12",
            json!("+442079460958"),
            "+44 20 7946 0958 ext. 12",
        ),
    ] {
        let line = &field(&spec, &format!("{reply}\n"))[0];
        assert_eq!(
            (&line["value"], line["shown"].as_str().unwrap().replace('\u{202f}', " ").as_str()),
            (&value, shown),
            "{spec}: {line}"
        );
    }
    let rule = json!({"type": "whole_number", "rules": [{"rule": "formula", "formula": "value >= 5",
        "message": "{heard} are too few."}]});
    let lines = field(&rule, "3\n8\n");
    assert_eq!(
        (&lines[0]["failed"], &lines[0]["message"], &lines[1]["value"]),
        (&json!(["formula"]), &json!("3 are too few."), &json!("8"))
    );
}

#[test]
fn read_writes_what_was_found_in_the_order_of_the_text() {
    let spec = json!({"fields": [{"key": "email", "type": "email"}, {"key": "pallets", "type": "quantity",
        "unit": "pallet"}], "language": "en"});
    let (code, out, said) = lumbo(
        &["read", "--spec", &spec.to_string(), "--json"],
        "é: 40 pallets, ana@heron.example\nnothing\n".as_bytes(),
    );
    assert_eq!(code, 0, "{said}");
    assert_eq!(
        json_lines(&out),
        [
            json!({"raw": "é: 40 pallets, ana@heron.example", "found": [
                {"field": "pallets", "value": {"amount": "40", "unit": "pallet"}, "text": "40 pallets", "start": 3,
                    "end": 13},
                {"field": "email", "value": "ana@heron.example", "text": "ana@heron.example", "start": 15, "end": 32}
            ]}),
            json!({"raw": "nothing", "found": []})
        ]
    );
}

#[test]
fn clock_counts_working_minutes_a_question_a_line() {
    let calendar = json!({"zone": "Europe/London",
        "hours": {"mon": [["08:00", "17:30"]], "tue": [["08:00", "17:30"]]}, "holidays": ["2026-12-28"]});
    let ask = |lines: &str| lumbo(&["clock", "--calendar", &calendar.to_string(), "--json"], lines.as_bytes());
    let (code, out, said) = ask("{\"from\": \"2026-11-28T12:00:00Z\", \"add_minutes\": 5}\n\
         {\"from\": \"2026-11-30T09:00:00+01:00\", \"to\": \"2026-12-01T09:00:00Z\"}\n\n\
         {\"from\": \"2026-12-27T00:00:00Z\", \"add_minutes\": 1}\n");
    assert_eq!(code, 0, "{said}");
    assert_eq!(
        json_lines(&out),
        [json!({"at": "2026-11-30T08:05:00Z"}), json!({"minutes": 570 + 60}), json!({"at": "2026-12-29T08:01:00Z"})]
    );
    for (line, says) in [
        ("{\"from\": \"2026-11-28T12:00:00Z\"}", "line 1: a line has"),
        ("{\"from\": \"yesterday\", \"add_minutes\": 5}", "line 1: "),
        ("nothing", "line 1: "),
    ] {
        let (code, _, said) = ask(line);
        assert_eq!(code, 2, "{line}");
        assert!(said.contains(says), "{said}");
    }
    let (code, _, said) = lumbo(
        &["clock", "--calendar", "{\"zone\": \"UTC\"}"],
        b"{\"from\": \"2026-11-28T12:00:00Z\", \"add_minutes\": 5}",
    );
    assert_eq!(code, 2);
    assert!(said.contains("does not open again"), "{said}");
}

#[test]
fn route_names_the_queue_and_every_rule_that_was_looked_at() {
    let lines = "{\"answers\": {\"pallets\": \"300\", \"temperature\": \"frozen\", \"role\": \"owner\", \"start\": \"soon\", \
                 \"email\": \"a@b.example\"}}\n{\"answers\": {}}\n";
    let (code, out, said) = lumbo(&["route", DEMO, "--json"], lines.as_bytes());
    assert_eq!(code, 0, "{said}");
    let found = json_lines(&out);
    assert_eq!(found[0]["queue"], "senior");
    let steps = found[0]["steps"].as_array().unwrap();
    assert_eq!(steps.last().unwrap()["held"], true);
    assert!(steps[..steps.len() - 1].iter().all(|step| step["held"] == false));
    assert_eq!(found[1]["queue"], "aldermoor");
    let (code, _, said) = lumbo(&["route", DEMO, "--json"], b"{\"answers\": {\"colour\": \"red\"}}");
    assert_eq!(code, 2);
    assert!(said.contains("line 1: this dialogue has no field “colour”"), "{said}");
}

#[test]
fn place_says_what_shows_on_each_visit_and_why() {
    let file = std::env::temp_dir().join(format!("lumbo-placements-{}.json", std::process::id()));
    let placements = json!({"format": "lumbo.placements/1", "zone": "Europe/London",
        "calendars": {"desk": {"zone": "Europe/London", "hours": {"mon": [["08:00", "17:30"]]}}},
        "placements": [
            {"id": "prices", "form": "corner", "where": {"include": ["/prices/*"], "exclude": ["/prices/haulage"]},
                "who": {"not_filed_days": 30}, "when": {"hours_of": "desk", "only_in_hours": true}},
            {"id": "in", "form": "inline", "slot": "quote"},
            {"id": "own", "form": "page"}]});
    std::fs::write(&file, placements.to_string()).unwrap();
    let path = file.to_str().unwrap();
    let visits = [
        json!({"url": "https://w.example/prices/frozen", "at": "2026-11-30T12:00:00Z", "device": "phone",
            "referrer": "https://search.example/", "returning": true}),
        json!({"url": "https://w.example/prices/haulage", "at": "2026-11-30T12:00:00Z"}),
        json!({"url": "https://w.example/prices/frozen", "at": "2026-11-30T20:00:00Z", "filed_days_ago": 3}),
    ];
    let lines: String = visits.iter().map(|visit| format!("{visit}\n")).collect();
    let (code, out, said) = lumbo(&["place", path], lines.as_bytes());
    assert_eq!(code, 0, "{said}");
    let slots: Vec<Value> = json_lines(&out).into_iter().map(|line| line["slots"].clone()).collect();
    assert_eq!(slots[0]["floating"]["placement"], "prices");
    assert_eq!(slots[0]["inline:quote"]["placement"], "in");
    assert_eq!(slots[0].as_object().unwrap().len(), 2, "what has its own address takes no slot");
    assert_eq!(slots[1]["floating"].get("placement"), None);
    let reason = json!({"placement": "prices", "fits": false, "why": "the page is excluded by /prices/haulage"});
    assert_eq!(slots[1]["floating"]["reasons"], json!([reason]));
    let why = slots[2]["floating"]["reasons"][0]["why"].as_str().unwrap();
    assert_eq!(why, "outside its hours until Monday 7 December, 08:00");
    for (line, says) in [
        ("{\"url\": \"no page\"}", "line 1: This is not the address of a page."),
        ("{\"url\": \"https://w.example\", \"device\": \"watch\"}", "line 1: unknown variant `watch`"),
        ("{}", "line 1: missing field `url`"),
    ] {
        let (code, _, said) = lumbo(&["place", path], line.as_bytes());
        assert_eq!(code, 2);
        assert!(said.contains(says), "{said}");
    }
    std::fs::write(&file, "{\"format\": \"lumbo.placements/9\", \"placements\": []}").unwrap();
    let (code, _, said) = lumbo(&["place", path], b"");
    assert!(code == 2 && said.contains("lumbo place reads lumbo.placements/1"), "{said}");
    std::fs::remove_file(&file).unwrap();
    let (code, schema, _) = lumbo(&["place", "--schema"], b"");
    let published = include_str!("../../../docs/placements.schema.json");
    assert_eq!(schema, published, "docs/placements.schema.json is behind: lumbo place --schema > it");
    let schema: Value = serde_json::from_str(&schema).unwrap();
    assert!(code == 0 && jsonschema::validator_for(&schema).unwrap().is_valid(&placements));
}

/// Every Rust file of the crates, as text.
fn sources(folder: &std::path::Path, into: &mut String) {
    for entry in std::fs::read_dir(folder).unwrap() {
        let path = entry.unwrap().path();
        if path.is_dir() {
            sources(&path, into);
        } else if path.extension().is_some_and(|ending| ending == "rs") {
            into.push_str(&std::fs::read_to_string(&path).unwrap());
        }
    }
}

#[test]
fn every_test_that_the_page_on_security_names_is_there() {
    let root = std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join("../..");
    let page = std::fs::read_to_string(root.join("docs/security.md")).unwrap();
    let mut code = String::new();
    sources(&root.join("crates"), &mut code);
    let is_a_name = |word: &&str| {
        word.matches('_').count() > 2 && word.chars().all(|letter| letter.is_ascii_lowercase() || letter == '_')
    };
    let named: Vec<&str> = page.split('`').skip(1).step_by(2).filter(is_a_name).collect();
    assert!(named.len() > 30, "{named:?}");
    let missing: Vec<&&str> = named.iter().filter(|name| !code.contains(&format!("fn {name}("))).collect();
    assert!(missing.is_empty(), "docs/security.md names tests that are not there: {missing:?}");
}
