//! What came in, kept in a file of JSON lines.

use std::io::Write;
use std::path::PathBuf;

use jiff::Timestamp;
use serde::{Deserialize, Serialize};

use crate::faults::Faults;

/// Most requests that are kept.
const MOST: usize = 5_000;

/// One request.
#[derive(Debug, Clone, Serialize, Deserialize)]
pub struct Got {
    /// When.
    pub at: Timestamp,
    /// Where it was sent to: the last part of the address.
    pub place: String,
    /// `webhook-id`.
    pub id: String,
    /// Whether its signature was good; absent where the receiver has no secret.
    pub signed: Option<bool>,
    /// What it held.
    pub body: String,
    /// What it was answered.
    pub answered: u16,
}

/// Everything that is kept.
#[derive(Debug, Default)]
pub struct Kept {
    /// Requests, the first one first.
    pub got: Vec<Got>,
    /// What goes wrong.
    pub faults: Faults,
    /// The secret that the receiver verifies with.
    pub secret: String,
    /// Where it is kept.
    pub file: Option<PathBuf>,
}

impl Kept {
    /// Reads what was kept before.
    pub fn read(file: Option<PathBuf>) -> anyhow::Result<Self> {
        let text = match &file {
            Some(file) if file.exists() => std::fs::read_to_string(file)?,
            _ => String::new(),
        };
        let got = text.lines().filter_map(|line| serde_json::from_str(line).ok()).collect();
        Ok(Self { got, file, ..Self::default() })
    }

    /// Keeps a request.
    pub fn add(&mut self, got: Got) {
        if let (Some(file), Ok(line)) = (&self.file, serde_json::to_string(&got)) {
            let opened = std::fs::OpenOptions::new().create(true).append(true).open(file);
            if let Err(error) = opened.and_then(|mut file| writeln!(file, "{line}")) {
                eprintln!("what came in could not be kept: {error}");
            }
        }
        if self.got.len() >= MOST {
            self.got.remove(0);
        }
        self.got.push(got);
    }

    /// Forgets every request.
    pub fn clear(&mut self) {
        self.got.clear();
        if let Some(file) = &self.file {
            let _ = std::fs::remove_file(file);
        }
    }
}
