//! What routes and workers both work with.

use std::sync::Arc;

use lumbo_store::Store;

use crate::Config;
use crate::outgoing::Outgoing;
use crate::outgoing::mail::Mailer;
use crate::vault::Vault;

/// Everything that is kept, requests that leave, and the key to secrets.
#[derive(Clone)]
pub(crate) struct Tools {
    /// Everything that is kept.
    pub(crate) store: Store,
    /// Requests that leave Lumbo.
    pub(crate) outgoing: Outgoing,
    /// Opens secrets.
    pub(crate) vault: Vault,
    /// Sends mails.
    pub(crate) mailer: Mailer,
    /// Where people open Lumbo.
    pub(crate) site: Arc<str>,
}

impl Tools {
    pub(crate) fn new(store: Store, config: &Config) -> Self {
        Self {
            store,
            outgoing: Outgoing::new(&config.allowed_private),
            vault: Vault::new(config.secret_key),
            mailer: config.mailer.clone(),
            site: config.site.as_str().into(),
        }
    }
}
