//! The one binary: `lumbo serve` and `lumbo demo` run the application; the others give the core to people who keep
//! dialogue files in Git. Exit 0: done; 1: done, with findings of severity error; 2: could not be done.

mod commands;
mod demo;
mod input;

use std::process::ExitCode;

use clap::{Parser, Subcommand};

/// Conversations are many small texts; this allocator serves those faster than the system's.
#[global_allocator]
static ALLOCATOR: mimalloc::MiMalloc = mimalloc::MiMalloc;

/// Lumbo: dialogues that qualify leads.
#[derive(Parser)]
#[command(version, about)]
struct Cli {
    #[command(subcommand)]
    command: Command,
}

#[derive(Subcommand)]
enum Command {
    /// Serve the application.
    Serve(commands::serve::Options),
    /// Load the Winterlode demo where the database is empty.
    Demo(commands::serve::Database),
    /// Begin a workspace.
    #[command(subcommand)]
    Workspace(commands::people::WorkspaceCommand),
    /// Invite somebody, or give them another password.
    #[command(subcommand)]
    Person(commands::people::PersonCommand),
    /// Print the OpenAPI document.
    Openapi,
    /// Check a dialogue file.
    Check(commands::check::Options),
    /// Count the ways through a dialogue (comes later).
    Ways(commands::Later),
    /// Run a conversation from a file of replies.
    Rehearse(commands::rehearse::Options),
    /// Score answers.
    Score(commands::score::Options),
    /// Find the queue of leads, a lead a line.
    Route(commands::route::Options),
    /// Say what shows on page visits, a visit a line.
    Place(commands::place::Options),
    /// Count in working time, a question a line.
    Clock(commands::clock::Options),
    /// Evaluate formulas, one a line on standard input.
    Formula(commands::formula::Options),
    /// Read replies for one field, one a line on standard input.
    Field(commands::field::Options),
    /// Read several fields out of free replies, one a line on standard input.
    Read(commands::read::Options),
    /// Write a dialogue file in canonical form.
    Format(commands::format::Options),
    /// Print the JSON Schema of the dialogue file.
    Schema,
}

/// What a command came to: true where there are findings of severity error.
type Done = anyhow::Result<bool>;

fn main() -> ExitCode {
    let cli = Cli::parse();
    let done = match cli.command {
        Command::Serve(options) => commands::serve::serve(options),
        Command::Demo(database) => commands::serve::load_demo(&database),
        Command::Workspace(command) => commands::people::workspace(command),
        Command::Person(command) => commands::people::person(command),
        Command::Openapi => commands::print(&lumbo_server::openapi()),
        Command::Check(options) => commands::check::run(&options),
        Command::Rehearse(options) => commands::rehearse::run(&options),
        Command::Score(options) => commands::score::run(&options),
        Command::Place(options) => commands::place::run(&options),
        Command::Route(options) => commands::route::run(&options),
        Command::Clock(options) => commands::clock::run(&options),
        Command::Formula(options) => commands::formula::run(&options),
        Command::Field(options) => commands::field::run(&options),
        Command::Format(options) => commands::format::run(&options),
        Command::Schema => commands::print(&lumbo_dialogue::file::schema()),
        Command::Ways(_) => Err(anyhow::anyhow!("`lumbo ways` comes in a later version")),
        Command::Read(options) => commands::read::run(&options),
    };
    match done {
        Ok(false) => ExitCode::SUCCESS,
        Ok(true) => ExitCode::from(1),
        Err(error) => {
            eprintln!("{error:#}");
            ExitCode::from(2)
        }
    }
}
