//! Sessions kept in PostgreSQL, for tower-sessions.

use std::fmt;

use jiff::Timestamp;
use lumbo_store::Store;
use sha2::{Digest, Sha256};
use tower_sessions::session::{Id, Record};
use tower_sessions::session_store::{Error, Result, SessionStore};

/// Keeps sessions through the store.
#[derive(Clone)]
pub(crate) struct Sessions(pub Store);

impl fmt::Debug for Sessions {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str("Sessions")
    }
}

/// What a session is kept under: the SHA-256 of its id, so that who reads the table cannot take a session over.
pub(crate) fn kept_as(id: &Id) -> String {
    hex::encode(Sha256::digest(id.to_string().as_bytes()))
}

fn backend(error: impl fmt::Display) -> Error {
    Error::Backend(error.to_string())
}

#[async_trait::async_trait]
impl SessionStore for Sessions {
    async fn save(&self, record: &Record) -> Result<()> {
        let data = serde_json::to_value(&record.data).map_err(|error| Error::Encode(error.to_string()))?;
        let expires = Timestamp::from_second(record.expiry_date.unix_timestamp()).map_err(backend)?;
        self.0.save_session(&kept_as(&record.id), &data, expires).await.map_err(backend)
    }

    async fn load(&self, id: &Id) -> Result<Option<Record>> {
        let Some((data, expires)) = self.0.load_session(&kept_as(id)).await.map_err(backend)? else {
            return Ok(None);
        };
        let data = serde_json::from_value(data).map_err(|error| Error::Decode(error.to_string()))?;
        let expiry_date = time::OffsetDateTime::from_unix_timestamp(expires.as_second()).map_err(backend)?;
        Ok(Some(Record { id: *id, data, expiry_date }))
    }

    async fn delete(&self, id: &Id) -> Result<()> {
        self.0.delete_session(&kept_as(id)).await.map_err(backend)
    }
}
