//! Load runs. `lumbo-bench core SECONDS` counts turns through the core on one thread; `lumbo-bench http ADDRESS
//! CONVERSATIONS SECONDS` holds so many conversations at once against a running server and counts answered turns.
//! `readers` reads replies made to be slow; `turns COUNT` and `replies COUNT` do a fixed piece of work, for counting
//! instructions.

mod core;
mod hostile;
mod http;
mod readers;

use anyhow::{Result, bail};

/// Conversations are many small texts; this allocator serves those faster than the system's.
#[global_allocator]
static ALLOCATOR: mimalloc::MiMalloc = mimalloc::MiMalloc;

fn main() -> Result<()> {
    let arguments: Vec<String> = std::env::args().skip(1).collect();
    match arguments.iter().map(String::as_str).collect::<Vec<_>>().as_slice() {
        ["core", seconds] => core::run(seconds.parse()?),
        ["http", address, conversations, seconds] => http::run(address, conversations.parse()?, seconds.parse()?),
        ["long", address, count] => hostile::long(address, count.parse()?),
        ["slow-heads", address, sockets] => hostile::slow_heads(address, sockets.parse()?),
        ["patient", address, count, seconds] => hostile::patient(address, count.parse()?, seconds.parse()?),
        ["readers"] => readers::run(),
        ["turns", count] => core::turns(count.parse()?),
        ["replies", count] => readers::replies(count.parse()?),
        _ => bail!(
            "usage: lumbo-bench core SECONDS | lumbo-bench readers | lumbo-bench turns COUNT | lumbo-bench replies \
             COUNT | lumbo-bench http ADDRESS CONVERSATIONS SECONDS"
        ),
    }
}

/// Replies of one conversation of the demo, without a phone number.
const REPLIES: [&str; 8] =
    ["storage", "frozen", "no", "about 120", "next month", "owner", "Pia Lindqvist", "Harrow Foods"];
