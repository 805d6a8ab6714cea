//! A lead that a person enters, by hand or from a file: what is known is read as a site's own word would be, and filed
//! by the scorecard and the rules of the dialogue's first File lead. Nobody said anything: no question was asked.

use super::step::Run;
use super::unfinished::first_filing;
use super::{Effect, Env, Event, Prefill, PrefillTo, State};
use crate::plan::Plan;
use crate::turns::file_lead;

/// Most answers of one lead.
const ENTERED_LIMIT: usize = 200;

/// What came of a lead that was entered.
#[derive(Debug, Clone)]
pub struct Entered {
    /// The conversation that it stands for.
    pub state: State,
    /// Its events.
    pub events: Vec<Event>,
    /// The filing.
    pub effects: Vec<Effect>,
    /// What could not be read, by the field's key, with a sentence each.
    pub unread: Vec<(String, String)>,
}

/// Reads answers by the keys of their fields and files them; nothing where the dialogue files no leads. `input` names
/// it among the inputs.
#[must_use]
pub fn enter(plan: &Plan, input: &str, answers: &[(String, String)], env: Env<'_>) -> Option<Entered> {
    let card = first_filing(plan)?;
    let mut state = State::default();
    let mut run = Run::new(plan, &mut state, &env);
    run.emit(Event::Taken { input: input.to_owned(), at: env.now, unheard: true });
    run.started(env);
    let mut unread = Vec::new();
    for (key, text) in answers.iter().take(ENTERED_LIMIT).filter(|(_, text)| !text.trim().is_empty()) {
        if let Err(says) = run.prefill(&Prefill { to: PrefillTo::Key(key.clone()), text: text.clone() }) {
            unread.push((key.clone(), says));
        }
    }
    let (score, decision) = file_lead::scored(&run, card);
    run.emit(Event::Filed {
        turn: String::new(),
        filing: 1,
        score: score.map(Box::new),
        decision,
        unfinished: false,
        early: false,
    });
    run.emit(Event::Left);
    let (events, effects) = (run.events, run.effects);
    Some(Entered { state, events, effects, unread })
}

#[cfg(test)]
#[allow(clippy::unwrap_used, reason = "tests")]
mod tests {
    use super::*;
    use crate::file::load;
    use crate::talk::{Context, keep_state, read_state};
    use lumbo_reading::domains::DomainLists;

    fn entered(answers: &[(&str, &str)]) -> Entered {
        let demo = load(include_str!("../../../../../demo/storage-enquiry.json")).unwrap();
        let (plan, _) = Plan::new(&demo);
        let answers: Vec<(String, String)> =
            answers.iter().map(|(key, text)| ((*key).to_owned(), (*text).to_owned())).collect();
        let (context, domains) = (Context::default(), DomainLists::default());
        let now = "2026-11-23T09:00:00Z".parse().unwrap();
        let env = Env { now, seed: 1, context: &context, known: &[], domains: &domains };
        enter(&plan, "file-3", &answers, env).unwrap()
    }

    #[test]
    fn a_lead_that_is_entered_is_scored_and_routed_as_one_that_was_asked() {
        let lead = entered(&[
            ("interest", "storage"),
            ("temperature", "frozen"),
            ("pallets", "about 340"),
            ("role", "owner"),
            ("email", "pia@harrowpeel.example"),
            ("phone", ""),
        ]);
        assert!(lead.unread.is_empty(), "{:?}", lead.unread);
        assert_eq!(lead.state.values.len(), 5);
        let [Effect::File { score: Some(score), decision, unfinished: false, .. }] = lead.effects.as_slice() else {
            panic!("{:?}", lead.effects)
        };
        assert!(score.total > 40 && decision.queue.is_some(), "{score:?}");
        assert_eq!(State::of(&lead.events).values, lead.state.values, "its events fold to its state");
        let kept = keep_state(&lead.state).unwrap().to_string();
        assert_eq!(read_state(&kept).unwrap().filings, 1);
    }

    #[test]
    fn what_cannot_be_read_is_named_and_the_rest_counts() {
        let lead = entered(&[("pallets", "many"), ("email", "nobody at all"), ("colour", "blue"), ("role", "owner")]);
        let keys: Vec<&str> = lead.unread.iter().map(|(key, _)| key.as_str()).collect();
        assert_eq!(keys, ["pallets", "email", "colour"]);
        assert!(lead.unread.iter().all(|(_, says)| !says.is_empty()));
        assert_eq!(lead.state.values.len(), 1);
    }
}
