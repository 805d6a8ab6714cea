//! Waking workers and windows after a commit. The process wakes its own at once; others hear it over a connection of
//! its own, once for all that came within 20 ms, never inside an answer's transaction. Waking is a hint: whoever is not
//! woken finds the same at the next look.

use std::collections::HashSet;
use std::sync::{Arc, Mutex, PoisonError};
use std::time::Duration;

use sqlx::postgres::PgListener;
use tokio::sync::{Notify, broadcast, watch};
use uuid::Uuid;

use crate::{Store, StoreError};

/// How long news is gathered before other servers are told.
const GATHERED: Duration = Duration::from_millis(20);
/// The channel that all servers listen on.
const CHANNEL: &str = "lumbo";
/// What is said for jobs; streams are named by their workspace.
const JOBS: &str = "jobs";
/// Windows of one process that may lag behind by so many hints before they look by themselves.
const HINTS: usize = 256;
/// How long after a failure the listener tries again.
const AGAIN: Duration = Duration::from_secs(2);

/// Who is to be woken.
#[derive(Debug, Clone)]
pub struct Wakes(Arc<Inner>);

#[derive(Debug)]
struct Inner {
    jobs: watch::Sender<()>,
    streams: broadcast::Sender<Option<Uuid>>,
    /// What other servers have not been told yet.
    untold: Mutex<HashSet<String>>,
    told: Notify,
}

impl Default for Wakes {
    fn default() -> Self {
        let (streams, _) = broadcast::channel(HINTS);
        Self(Arc::new(Inner { jobs: watch::channel(()).0, streams, untold: Mutex::default(), told: Notify::new() }))
    }
}

impl Wakes {
    /// Jobs were set that may be due: call it after the commit.
    pub fn jobs(&self) {
        self.0.jobs.send_replace(());
        self.tell(JOBS.to_owned());
    }

    /// Something was added to a stream of a workspace: call it after the commit.
    pub fn stream(&self, workspace: Uuid) {
        let _ = self.0.streams.send(Some(workspace));
        self.tell(workspace.to_string());
    }

    /// Changes whenever jobs may be due.
    #[must_use]
    pub fn jobs_woken(&self) -> watch::Receiver<()> {
        self.0.jobs.subscribe()
    }

    /// Hints that a workspace has news, or that anybody may have.
    #[must_use]
    pub fn hints(&self) -> broadcast::Receiver<Option<Uuid>> {
        self.0.streams.subscribe()
    }

    fn tell(&self, what: String) {
        self.0.untold.lock().unwrap_or_else(PoisonError::into_inner).insert(what);
        self.0.told.notify_one();
    }

    fn everybody(&self) {
        self.0.jobs.send_replace(());
        let _ = self.0.streams.send(None);
    }
}

impl Store {
    /// Tells other servers what there is to be done and seen; runs until it is dropped.
    #[crate::compiled_here]
    pub async fn tell_others(&self) {
        let inner = &self.wakes.0;
        loop {
            inner.told.notified().await;
            tokio::time::sleep(GATHERED).await;
            let news: Vec<String> = inner.untold.lock().unwrap_or_else(PoisonError::into_inner).drain().collect();
            let told = sqlx::query!("select pg_notify($1, said) from unnest($2::text[]) as said", CHANNEL, &news)
                .fetch_all(&self.pool)
                .await;
            if let Err(error) = told {
                // They find it at their next look.
                tracing::warn!(%error, "other servers could not be told");
            }
        }
    }

    /// Hears what other servers did; runs until it is dropped. A listener that lost its connection has lost what came
    /// meanwhile, so that then everybody looks.
    #[crate::compiled_here]
    pub async fn hear_others(&self) {
        loop {
            if let Err(error) = self.hear().await {
                tracing::warn!(%error, "the listener lost its connection; it tries again");
            }
            self.wakes.everybody();
            tokio::time::sleep(AGAIN).await;
        }
    }

    async fn hear(&self) -> Result<(), StoreError> {
        let mut listener = PgListener::connect_with(&self.pool).await?;
        listener.ignore_pool_close_event(true);
        listener.listen(CHANNEL).await?;
        loop {
            match listener.try_recv().await? {
                Some(said) if said.payload() == JOBS => self.wakes.0.jobs.send_replace(()),
                Some(said) => match said.payload().parse() {
                    Ok(workspace) => drop(self.wakes.0.streams.send(Some(workspace))),
                    Err(_) => self.wakes.everybody(),
                },
                None => self.wakes.everybody(),
            }
        }
    }
}
