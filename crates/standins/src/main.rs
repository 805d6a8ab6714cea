//! Serves the stand-ins on an address.

use std::net::SocketAddr;
use std::path::PathBuf;

use clap::Parser;

/// Simulated outside services for Lumbo's demo and tests.
#[derive(Parser)]
struct Told {
    /// Address to listen on.
    #[arg(long, default_value = "127.0.0.1:8090")]
    listen: SocketAddr,
    /// Address that mails are sent to.
    #[arg(long, default_value = "127.0.0.1:8025")]
    smtp: SocketAddr,
    /// Where Lumbo is, for the line of script on Winterlode's pages.
    #[arg(long, default_value = "http://127.0.0.1:8080")]
    lumbo: String,
    /// The key in that line.
    #[arg(long, default_value = "winterlode")]
    page_key: String,
    /// File that keeps what came in; in memory only where absent.
    #[arg(long)]
    data: Option<PathBuf>,
}

#[tokio::main]
async fn main() -> anyhow::Result<()> {
    let told = Told::parse();
    let listener = tokio::net::TcpListener::bind(told.listen).await?;
    let here = format!("http://{}", listener.local_addr()?);
    let options =
        lumbo_standins::Options { here: here.clone(), lumbo: told.lumbo, page_key: told.page_key, data: told.data };
    let mails = options.data.as_ref().map(|data| data.with_extension("mails.json"));
    let mailbox = lumbo_standins::mailbox::Mailbox::read(mails);
    let smtp = tokio::net::TcpListener::bind(told.smtp).await?;
    let router = lumbo_standins::router(&options, mailbox.clone())?;
    println!("Stand-ins at {here}, mails at {}", smtp.local_addr()?);
    tokio::try_join!(mailbox.serve(smtp), async { axum::serve(listener, router).await })?;
    Ok(())
}
