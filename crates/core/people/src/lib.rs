//! People: what each role may do ([`Role::may`]), which passwords are good enough ([`password`]), how long sign-in
//! waits after wrong ones ([`waits`]), what the audit names ([`Audited`]), the second factor ([`totp`]), and what a
//! token for programs may be used for ([`Scope`]).

mod audited;
mod email;
pub mod password;
mod role;
mod scope;
pub mod totp;
pub mod waits;

pub use audited::Audited;
pub use email::{EmailError, sign_in_email};
pub use role::{Action, Role};
pub use scope::{LONGEST_DAYS, Scope};
