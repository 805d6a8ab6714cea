//! Work that takes processor time, apart from the threads that answer: rehearsals, imports, hashing. Few run at once,
//! so that prospects are answered as quickly meanwhile; who has to wait for too long is told to try again.

use std::time::Duration;

use axum::http::StatusCode;
use tokio::sync::Semaphore;

use crate::Problem;

/// How long a piece of work waits for its turn.
const TURN: Duration = Duration::from_secs(10);
/// How long one may take.
const TIME: Duration = Duration::from_secs(20);

/// Turns for work that takes processor time.
#[derive(Debug)]
pub(crate) struct Busy {
    work: Semaphore,
    hashing: Semaphore,
}

impl Default for Busy {
    fn default() -> Self {
        let cores = std::thread::available_parallelism().map_or(1, usize::from);
        // Half of the cores, so that the other half answers.
        Self { work: Semaphore::new((cores / 2).max(1)), hashing: Semaphore::new((cores / 2).max(1)) }
    }
}

fn too_busy() -> Problem {
    Problem::new(
        StatusCode::SERVICE_UNAVAILABLE,
        "busy",
        "Lumbo is busy at the moment. Nothing was changed; try again in a few seconds.",
    )
}

impl Busy {
    /// Does work that takes processor time.
    pub(crate) async fn work<T: Send + 'static>(
        &self,
        work: impl FnOnce() -> T + Send + 'static,
    ) -> Result<T, Problem> {
        turn(&self.work, work).await
    }

    /// Hashes a password, or looks whether one fits; these have turns of their own.
    pub(crate) async fn hash<T: Send + 'static>(
        &self,
        work: impl FnOnce() -> T + Send + 'static,
    ) -> Result<T, Problem> {
        turn(&self.hashing, work).await
    }
}

async fn turn<T: Send + 'static>(turns: &Semaphore, work: impl FnOnce() -> T + Send + 'static) -> Result<T, Problem> {
    let permit =
        tokio::time::timeout(TURN, turns.acquire()).await.map_err(|_| too_busy())?.map_err(|_| Problem::internal())?;
    let done = tokio::time::timeout(TIME, tokio::task::spawn_blocking(work)).await;
    drop(permit);
    done.map_err(|_| too_busy())?.map_err(|_| Problem::internal())
}
