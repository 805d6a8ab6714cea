//! `lumbo serve` and `lumbo demo`.

use std::net::SocketAddr;
use std::time::{Duration, Instant};

use anyhow::anyhow;
use lumbo_server::{Config, Sockets};
use lumbo_store::{Store, StoreError};
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
    /// Sockets open at once.
    #[arg(long, default_value_t = Sockets::default().in_all)]
    sockets: usize,
    /// Sockets open at once from one address; behind a proxy, as many as the proxy opens.
    #[arg(long, default_value_t = Sockets::default().from_one_address)]
    sockets_per_address: usize,
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
        let store = connect(&options.database.database, options.connections).await?;
        let listener = tokio::net::TcpListener::bind(options.listen)
            .await
            .map_err(|error| anyhow!("{} cannot be listened on: {error}", options.listen))?;
        tracing::info!(address = %listener.local_addr()?, "serving");
        let country_header = options
            .country_header
            .map(|name| name.parse().map_err(|_| anyhow!("“{name}” is not the name of a header")))
            .transpose()?;
        let config = Config {
            country_header,
            secure_cookies: options.secure_cookies,
            sign_ins_per_minute: options.sign_ins_per_minute,
            prospect_requests_per_minute: options.prospect_requests_per_minute,
            sockets: Sockets { in_all: options.sockets, from_one_address: options.sockets_per_address },
        };
        lumbo_server::serve(listener, store, &config, stopped()).await;
        Ok(false)
    })
}

/// How long a server waits for its database at start, and how long between two looks.
const WAIT_FOR_DATABASE: Duration = Duration::from_secs(60);
const LOOK_AGAIN: Duration = Duration::from_secs(1);

/// Connects, waiting for a database that is not there yet.
async fn connect(database: &str, connections: u32) -> anyhow::Result<Store> {
    let begun = Instant::now();
    loop {
        match Store::connect(database, connections).await {
            Ok(store) => return Ok(store),
            Err(StoreError::Away(error)) if begun.elapsed() < WAIT_FOR_DATABASE => {
                tracing::warn!(error, "the database does not answer yet");
                tokio::time::sleep(LOOK_AGAIN).await;
            }
            Err(error) => return Err(error.into()),
        }
    }
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
