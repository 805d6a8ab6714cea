//! Who may sign in: `lumbo workspace new`, `lumbo person new`, `lumbo person password`.

use anyhow::anyhow;
use lumbo_people::sign_in_email;
use lumbo_store::{NewInvitation, NewWorkspace, Role, Store};

use super::serve::{Database, runtime};
use crate::Done;

/// What is done with workspaces.
#[derive(clap::Subcommand)]
pub enum WorkspaceCommand {
    /// Begin a workspace; prints a link for its first administrator.
    New {
        #[command(flatten)]
        database: Database,
        /// Its name.
        name: String,
        /// Address of its first administrator.
        #[arg(long)]
        email: String,
        /// IANA name of its zone.
        #[arg(long, default_value = "Europe/London")]
        zone: String,
    },
}

/// What is done with people.
#[derive(clap::Subcommand)]
pub enum PersonCommand {
    /// Invite somebody to a workspace; prints a link.
    New {
        #[command(flatten)]
        database: Database,
        /// Short name of the workspace.
        workspace: String,
        /// Their address.
        email: String,
        /// What they will be: administrator, author, `rep_lead`, rep or viewer.
        #[arg(long, default_value = "author")]
        role: String,
    },
    /// Give somebody another password, read from the first line of standard input; ends their sessions.
    Password {
        #[command(flatten)]
        database: Database,
        /// Their address.
        email: String,
    },
}

/// What an invitation's link looks like; the server's own address goes before it.
fn print_link(email: &str, secret: &str) {
    println!("{email} comes in at  /join#{secret}  on your server. The link counts once, for a week.");
}

/// Runs `lumbo workspace`.
pub fn workspace(command: WorkspaceCommand) -> Done {
    let WorkspaceCommand::New { database, name, email, zone } = command;
    let email = sign_in_email(&email).map_err(|error| anyhow!(error.says()))?;
    jiff::tz::TimeZone::get(&zone).map_err(|_| anyhow!("“{zone}” is no time zone; take one such as Europe/London"))?;
    if name.trim().is_empty() {
        return Err(anyhow!("a workspace needs a name"));
    }
    let (secret, token_hash) = lumbo_server::link_secret();
    let invitation = NewInvitation { email, role: Role::Administrator, token_hash: &token_hash, mailed: false };
    runtime()?.block_on(async {
        let store = Store::connect(&database.database, 2).await?;
        store.begin_workspace(&NewWorkspace { name: name.trim(), zone: &zone }, &invitation).await?;
        print_link(email, &secret);
        Ok(false)
    })
}

/// Runs `lumbo person`.
pub fn person(command: PersonCommand) -> Done {
    match command {
        PersonCommand::New { database, workspace, email, role } => {
            let email = sign_in_email(&email).map_err(|error| anyhow!(error.says()))?;
            let role = Role::parse(&role).ok_or_else(|| {
                anyhow!("“{role}” is no role; there are administrator, author, rep_lead, rep and viewer")
            })?;
            let (secret, token_hash) = lumbo_server::link_secret();
            runtime()?.block_on(async {
                let store = Store::connect(&database.database, 2).await?;
                let id = store.workspace(&workspace).await?;
                let id = id.ok_or_else(|| anyhow!("there is no workspace “{workspace}”"))?;
                store.invite(id, None, &NewInvitation { email, role, token_hash: &token_hash, mailed: false }).await?;
                print_link(email, &secret);
                Ok(false)
            })
        }
        PersonCommand::Password { database, email } => {
            let mut line = String::new();
            std::io::stdin().read_line(&mut line)?;
            let password = line.trim_end_matches(['\r', '\n']);
            runtime()?.block_on(async {
                let store = Store::connect(&database.database, 2).await?;
                let account = store.account_by_email(&email).await?;
                let account = account.ok_or_else(|| anyhow!("nobody signs in with {email}"))?;
                lumbo_people::password::check(password, &[&account.name, &account.email])
                    .map_err(|error| anyhow!(error.says()))?;
                let hash = lumbo_server::hash_password(password).map_err(|error| anyhow!(error))?;
                store.change_password(account.id, &hash, None).await?;
                println!("{} has a new password; their sessions are ended.", account.name);
                Ok(false)
            })
        }
    }
}
