//! The server over HTTP, each test with a database of its own. One binary, so that the crate is linked once.

mod answers;
mod authors;
mod common;
mod conversations;
mod customer_system;
mod faults;
mod isolation;
mod live;
mod mail;
mod people;
mod placements;
mod provider;
mod requests;
mod restore;
mod rolling;
mod running;
mod sending;
mod settings;
mod tokens;
mod workbench;
