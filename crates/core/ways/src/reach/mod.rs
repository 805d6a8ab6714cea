//! Reach: what can still happen from a place with given values, computed without holding a conversation.
//!
//! An abstract interpretation (textbook knowledge, from memory: Nielson, Nielson and Hankin, "Principles of Program
//! Analysis"): every field is cut into cells that its readers can tell apart ([`cells`]); conditions are decided on
//! sets of cells ([`test`]); the turns are followed until nothing new comes ([`explore`], [`moves`]); what nothing
//! reads any more is forgotten ([`live`]), and points are added up as soon as they can change no more ([`score`]). The
//! result is never too small. It is exact where a conversation of typed replies, held with the engine, does what was
//! claimed ([`witness`]).

mod cells;
mod explore;
mod graph;
mod live;
mod model;
mod moves;
mod now;
mod place;
mod result;
mod score;
mod test;
mod witness;

pub use now::{Still, still};
pub use result::{Gap, Over, Questions, Reach, Row, Span, reach};
pub use witness::Witness;
