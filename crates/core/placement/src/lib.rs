//! Placements: where, when, to whom and how a dialogue shows.
//!
//! | file | what it holds |
//! |---|---|
//! | `file` | a placement as it is written |
//! | `address` | the address of a page, taken apart |
//! | `pattern` | patterns on hosts, paths and values |
//! | `visit` | what is known of a page visit |
//! | `choose` | what shows on a visit, and why |
//! | `words` | the reasons as sentences |
//! | `colour` | contrast, and the author's colour moved until it can be read |
//! | `language` | the visitor's languages against those there are |
//! | `check` | what cannot go on air as it stands |

mod address;
mod check;
mod choose;
pub mod colour;
mod file;
pub mod language;
mod pattern;
mod visit;
mod words;

pub use address::{Address, AddressError, is_plain_allowed, site_source};
pub use check::{Fault, check};
pub use choose::{Chosen, Judged, Known, Reason, Slot, choose, judge, shows_at};
pub use file::{
    Corner, Daylight, FORMAT, Form, Keeping, Look, Manners, Moment, Opens, Parameter, Placement, PlacementsFile, Shows,
    SignedIn, Visitors, When, Where, Who, schema,
};
pub use pattern::{fits_host, fits_path, fits_value};
pub use visit::{Device, Visit};
