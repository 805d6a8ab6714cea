//! `lumbo serve` and `lumbo demo`.

use std::net::SocketAddr;

use anyhow::{Context, anyhow};
use lumbo_server::Config;
use lumbo_store::Store;
use tracing_subscriber::EnvFilter;

use crate::{Done, demo};

/// The database.
#[derive(clap::Args)]
pub struct Database {
    /// Address of the database, postgres://…
    #[arg(long, env = "DATABASE_URL", hide_env_values = true)]
    database: String,
}

/// Options.
#[derive(clap::Args)]
pub struct Options {
    #[command(flatten)]
    database: Database,
    /// Address to listen on.
    #[arg(long, default_value = "127.0.0.1:8080")]
    listen: SocketAddr,
    /// Connections to the database; about four for each core serves most answers a second.
    #[arg(long, default_value_t = 8)]
    connections: u32,
    /// Send cookies over HTTPS only; set it wherever the server is not on loopback.
    #[arg(long)]
    secure_cookies: bool,
    /// Sign-ins per minute and address.
    #[arg(long, default_value_t = Config::default().sign_ins_per_minute)]
    sign_ins_per_minute: u32,
    /// Prospects' requests per minute and address.
    #[arg(long, default_value_t = Config::default().prospect_requests_per_minute)]
    prospect_requests_per_minute: u32,
    /// A header with the visitor's country (ISO 3166-1 alpha-2); only behind a proxy that always sets it.
    #[arg(long)]
    country_header: Option<String>,
}

fn runtime() -> anyhow::Result<tokio::runtime::Runtime> {
    Ok(tokio::runtime::Builder::new_multi_thread().enable_all().build()?)
}

/// Serves until interrupted.
pub fn serve(options: Options) -> Done {
    tracing_subscriber::fmt()
        .json()
        .with_env_filter(EnvFilter::try_from_default_env().unwrap_or_else(|_| EnvFilter::new("info,tower_http=warn")))
        .with_writer(std::io::stderr)
        .init();
    runtime()?.block_on(async {
        let store = Store::connect(&options.database.database, options.connections).await?;
        let listener = tokio::net::TcpListener::bind(options.listen).await.map_err(|error| anyhow!("{} cannot be listened on: {error}", options.listen))?;
        tracing::info!(address = %listener.local_addr()?, "serving");
        let country_header = options.country_header.map(|name| name.parse().map_err(|_| anyhow!("“{name}” is not the name of a header"))).transpose()?;
        let config = Config {
            country_header,
            secure_cookies: options.secure_cookies,
            sign_ins_per_minute: options.sign_ins_per_minute,
            prospect_requests_per_minute: options.prospect_requests_per_minute,
        };
        lumbo_server::serve(listener, store, &config, stopped()).await.context("serving failed")?;
        Ok(false)
    })
}

/// Waits for an interrupt, or for being told to end.
async fn stopped() {
    let ended = async {
        match tokio::signal::unix::signal(tokio::signal::unix::SignalKind::terminate()) {
            Ok(mut signal) => {
                signal.recv().await;
            }
            Err(_) => std::future::pending().await,
        }
    };
    tokio::select! {
        _ = tokio::signal::ctrl_c() => {}
        () = ended => {}
    }
}

/// Loads the demo where it is not there yet.
pub fn load_demo(database: &Database) -> Done {
    runtime()?.block_on(async {
        let store = Store::connect(&database.database, 4).await?;
        println!("{}", demo::load(&store).await?);
        Ok(false)
    })
}
