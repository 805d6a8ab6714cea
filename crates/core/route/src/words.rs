//! A decision in sentences, with names where it has keys.

use super::{Decision, FirmIs, Looked, NoTurn, PassedOver, Pick, RouteStep};

/// The steps of a decision as sentences. `name_of` gives a queue's name for its key; the key stands where it gives
/// none.
///
/// ```
/// use lumbo_route::{Decision, RouteStep, words};
/// let otherwise = RouteStep::Otherwise { queue: Some("saltwick".into()) };
/// let decision = Decision { queue: Some("saltwick".into()), steps: vec![otherwise], ..Decision::default() };
/// assert_eq!(words::says(&decision, &|_| Some("Saltwick depot".into())), ["No rule holds: Saltwick depot"]);
/// assert_eq!(words::says(&decision, &|_| None), ["No rule holds: saltwick"]);
/// ```
#[must_use]
pub fn says(decision: &Decision, name_of: &dyn Fn(&str) -> Option<String>) -> Vec<String> {
    decision.steps.iter().map(|step| step_says(step, name_of)).collect()
}

fn step_says(step: &RouteStep, name_of: &dyn Fn(&str) -> Option<String>) -> String {
    let named = |key: &String| name_of(key).unwrap_or_else(|| key.clone());
    match step {
        RouteStep::Rule { condition, held: true, queue, .. } => format!("{condition}: {}", named(queue)),
        RouteStep::Rule { condition, held: false, .. } => format!("{condition}: does not hold"),
        RouteStep::Firm { condition, is, held, firm, queue, .. } => firm_says(condition, *is, *held, firm, || {
            if queue.is_empty() { String::new() } else { format!(": {}", named(queue)) }
        }),
        RouteStep::Territory { condition, looked, .. } => match looked {
            Looked::NotYet => format!("{condition}: a table of territories is looked at when the lead is filed"),
            Looked::Row { table, starts, at, queue } => {
                format!("{condition}: {table} has {starts} for {at}: {}", named(queue))
            }
            Looked::Otherwise { table, at, queue } => {
                format!("{condition}: {table} has no row for {at}, and leaves it to {}", named(queue))
            }
            Looked::NoRow { table, at } => format!("{condition}: {table} has no row for {at}"),
            Looked::NotSaid { table } => format!("{condition}: where they are was not said, so {table} has nothing"),
            Looked::NoSuchTable => format!("{condition}: there is no such table of territories any more"),
        },
        RouteStep::Otherwise { queue: Some(queue) } => format!("No rule holds: {}", named(queue)),
        RouteStep::Otherwise { queue: None } => "No rule holds, and no queue is named for that".to_owned(),
        RouteStep::Owned { name } => format!("{name} has a lead of theirs already: it is {name}’s too"),
        RouteStep::StandsIn { name, of } => format!("{of} is away: {name} stands in, and has it"),
        RouteStep::LooksAfter { name, company } => format!("{name} looks after {company}: it is {name}’s"),
        RouteStep::NoTurn { why: NoTurn::Competitor, company } => {
            format!("{company} is a competitor: it takes nobody’s turn, and nobody has it")
        }
        RouteStep::NoTurn { why: NoTurn::DoNotContact, company } => {
            format!("{company} is not to be contacted: it takes nobody’s turn, and nobody has it")
        }
        RouteStep::Picked { queue, pick } => pick_says(pick, queue),
        RouteStep::NoSuchQueue { queue } => {
            format!("There is no queue “{queue}” in this workspace any more: nobody has it")
        }
        RouteStep::Early {} => "It was filed early: its owner is chosen at the end of the conversation, or after five \
                             minutes of silence"
            .to_owned(),
        RouteStep::Said(says) => says.clone(),
    }
}

/// What a rule wants of the firm, and whether it is so.
fn firm_says(condition: &str, is: FirmIs, held: Option<bool>, firm: &str, goes: impl Fn() -> String) -> String {
    let wants = format!("{condition}, and {}", is.says());
    match held {
        None => format!("{wants}: what is on file is looked at when the lead is filed"),
        Some(true) if firm.is_empty() => format!("{wants}, as theirs is not on file{}", goes()),
        Some(true) => format!("{wants} ({firm}){}", goes()),
        Some(false) if firm.is_empty() => format!("{wants}: theirs is not on file"),
        Some(false) => format!("{wants}: {firm} is not so"),
    }
}

/// A pick as a sentence about its queue.
#[must_use]
pub fn pick_says(pick: &Pick, queue: &str) -> String {
    match pick {
        Pick::Always(name) => format!("{queue} always goes to {name}"),
        Pick::StandsIn { name, of } => format!("{queue} always goes to {of}, who is away: {name} stands in"),
        Pick::OwnerAway => format!("{queue} has no owner at the moment: it waits in the queue"),
        Pick::Nobody => format!("Nobody takes part in {queue}: it waits in the queue"),
        Pick::First(name) => format!("{queue}: {name} is first in the rotation"),
        Pick::After { name, before } => format!("{queue}: {name} is next in the rotation after {before}"),
        Pick::Again(name) => format!("{queue}: {name} is next in the rotation again"),
        Pick::Fewest { name, open } => format!("{queue}: {name} has the fewest open leads, {open}"),
        Pick::Company(name) => format!("{queue}: {name} has a lead of the same company"),
        Pick::Over { name, why } => format!("{queue}: {name} {}", passed_over(why)),
        Pick::NobodyFree => format!("Nobody in {queue} is free"),
        Pick::Closed { opens: Some(opens) } => {
            format!("{queue} is closed until {}", opens.strftime("%-d %B, %H:%M UTC"))
        }
        Pick::Closed { opens: None } => format!("{queue} is closed, and its calendar never opens"),
        Pick::PassedOn => format!("{queue} passes it on"),
    }
}

fn passed_over(why: &PassedOver) -> String {
    match why {
        PassedOver::Paused => "takes no new leads at the moment".to_owned(),
        PassedOver::Away { until } => format!("is away until {}", until.strftime("%-d %B, %H:%M UTC")),
        PassedOver::Full { untried, of } => format!("is full, {untried} of {of} untried"),
        PassedOver::FullToday { of } => format!("has had the {of} leads of a day"),
        PassedOver::Lacks(skill) => format!("lacks {skill}"),
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_step_is_a_sentence_with_names_and_an_old_one_stays_as_it_was_said() {
        let rule = |held| RouteStep::Rule {
            rule: "r1".into(),
            condition: "Pallets at least 200".into(),
            held,
            queue: "big".into(),
        };
        let kept: Decision = serde_json::from_value(serde_json::json!({"queue": "big", "steps": [
            "Score at least 40: queue big",
            {"rule": {"rule": "r1", "condition": "Pallets at least 200", "held": false, "queue": "big"}},
            {"otherwise": {}},
            {"picked": {"queue": "Big loads", "pick": {"after": {"name": "Ina", "before": "Udo"}}}},
        ]}))
        .unwrap();
        let names = |key: &str| (key == "big").then(|| "Big loads".to_owned());
        assert_eq!(
            says(&kept, &names),
            [
                "Score at least 40: queue big",
                "Pallets at least 200: does not hold",
                "No rule holds, and no queue is named for that",
                "Big loads: Ina is next in the rotation after Udo",
            ]
        );
        let steps = vec![rule(true), RouteStep::Early {}, RouteStep::NoSuchQueue { queue: "big".into() }];
        let now = Decision { steps, ..Decision::default() };
        assert_eq!(says(&now, &names)[0], "Pallets at least 200: Big loads");
        let written = serde_json::to_value(&now).unwrap();
        assert_eq!(serde_json::from_value::<Decision>(written).unwrap(), now);
        assert_eq!(serde_json::to_value(&kept).unwrap()["steps"][0]["said"], "Score at least 40: queue big");
    }
}
