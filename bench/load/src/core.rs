//! Turns through the core, single thread: whole conversations of the demo from their start, without phone numbers.

use std::hint::black_box;
use std::sync::OnceLock;
use std::time::{Duration, Instant};

use anyhow::{Result, anyhow};
use lumbo_dialogue::file::load;
use lumbo_dialogue::plan::Plan;
use lumbo_dialogue::talk::{Context, Env, Input, ProspectInput, ProspectMessage, State, Step, step};
use lumbo_reading::domains::DomainLists;

use crate::REPLIES;

/// Turns per conversation, with its start.
const TURNS: u32 = 9;

/// So many turns, in whole conversations; for counting instructions.
pub fn turns(count: u32) -> Result<()> {
    // What is made once is made even where nothing is counted.
    let _ = PLAN.get_or_init(made);
    conversations(1)?;
    conversations(count / TURNS).map(drop)
}

pub fn run(seconds: u64) -> Result<()> {
    let mut turns = 0_u64;
    let begun = Instant::now();
    while begun.elapsed() < Duration::from_secs(seconds) {
        turns += conversations(200)?;
    }
    let rate = turns as f64 / begun.elapsed().as_secs_f64();
    println!("core: {rate:.0} turns a second, one thread");
    Ok(())
}

/// Holds so many conversations from their start; gives the turns.
fn conversations(count: u32) -> Result<u64> {
    let (plan, inputs) = PLAN.get_or_init(made).as_ref().map_err(|error| anyhow!("{error}"))?;
    let context = Context::default();
    let env =
        Env { now: jiff::Timestamp::UNIX_EPOCH, seed: 7, context: &context, known: &[], domains: DomainLists::none() };
    let mut turns = 0;
    for _ in 0..count {
        let mut state = State::default();
        for input in inputs {
            match step(plan, &mut state, input, env) {
                Ok(Step::Took { events, .. }) => {
                    black_box(events);
                }
                other => return Err(anyhow!("the conversation did not go on: {other:?}")),
            }
            turns += 1;
        }
    }
    Ok(turns)
}

type Made = Result<(Plan, Vec<Input>), String>;

static PLAN: OnceLock<Made> = OnceLock::new();

fn made() -> Made {
    let (plan, _) =
        Plan::new(&load(include_str!("../../../demo/storage-enquiry.json")).map_err(|error| error.to_string())?);
    let replies = REPLIES.iter().map(|reply| ProspectInput::Reply { text: (*reply).to_owned() });
    let bodies = std::iter::once(ProspectInput::Start {}).chain(replies);
    let inputs = bodies
        .zip(0..)
        .map(|(body, expects)| ProspectMessage { id: format!("i{expects}"), expects, body }.into())
        .collect();
    Ok((plan, inputs))
}
