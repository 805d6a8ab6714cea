//! What each kind of turn is called, refers to and says.

pub mod references;
pub mod texts;
pub mod uses;
pub mod words;
