//! The store against a real PostgreSQL, each test with a database of its own. One binary, so that the crate is linked
//! once.

mod alerts;
mod common;
mod conversations;
mod drafts;
mod entering;
mod files;
mod filing;
mod jobs;
mod looks;
mod merging;
mod people_on_file;
mod records;
mod requests;
mod routing;
mod rows;
mod streams;
mod tasks;
mod teams;
mod trying;
mod turns;
mod upgrade;
mod work;
mod writing;
