//! Turns through the core, single thread: whole conversations of the demo from their start, without phone numbers.

use std::hint::black_box;
use std::time::{Duration, Instant};

use anyhow::{Result, anyhow};
use lumbo_core::file::load;
use lumbo_core::outline::Plan;
use lumbo_core::talk::{Context, Env, Input, InputBody, State, Step, step};

use crate::REPLIES;

pub fn run(seconds: u64) -> Result<()> {
    let (plan, _) = Plan::new(&load(include_str!("../../../demo/storage-enquiry.json")).map_err(|error| anyhow!("{error}"))?);
    let context = Context::default();
    let env = Env { now: jiff::Timestamp::now(), seed: 7, context: &context, known: &[], domains: lumbo_core::field::domains::DomainLists::none() };
    let bodies: Vec<InputBody> = std::iter::once(InputBody::Start).chain(REPLIES.iter().map(|reply| InputBody::Reply { text: (*reply).to_owned() })).collect();
    let inputs: Vec<Input> = bodies.into_iter().zip(0..).map(|(body, expects)| Input { id: format!("i{expects}"), expects, body }).collect();
    let mut turns = 0_u64;
    let begun = Instant::now();
    while begun.elapsed() < Duration::from_secs(seconds) {
        for _ in 0..200 {
            let mut state = State::default();
            for input in &inputs {
                match step(&plan, &mut state, input, env) {
                    Ok(Step::Events(events)) => {
                        black_box(events);
                    }
                    other => return Err(anyhow!("the conversation did not go on: {other:?}")),
                }
                turns += 1;
            }
        }
    }
    let rate = turns as f64 / begun.elapsed().as_secs_f64();
    println!("core: {rate:.0} turns a second, one thread");
    Ok(())
}
