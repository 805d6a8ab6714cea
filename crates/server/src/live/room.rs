//! How many windows may listen: in all, and of one person.

use std::collections::HashMap;
use std::sync::{Arc, Mutex, PoisonError};

use uuid::Uuid;

/// Windows of one server.
const IN_ALL: usize = 2_000;
/// Windows of one person at one server.
const OF_ONE: usize = 20;

/// Who listens.
#[derive(Debug, Default)]
pub(crate) struct Rooms(Mutex<HashMap<Uuid, usize>>);

/// A place that is free again once it is dropped.
#[derive(Debug)]
pub(crate) struct Seat {
    rooms: Arc<Rooms>,
    person: Uuid,
}

impl Rooms {
    /// Takes a place; nothing where there is none.
    pub(crate) fn sit(self: &Arc<Self>, person: Uuid) -> Option<Seat> {
        let mut taken = self.0.lock().unwrap_or_else(PoisonError::into_inner);
        let all: usize = taken.values().sum();
        let mine = taken.entry(person).or_default();
        if all >= IN_ALL || *mine >= OF_ONE {
            return None;
        }
        *mine += 1;
        Some(Seat { rooms: Arc::clone(self), person })
    }
}

impl Drop for Seat {
    fn drop(&mut self) {
        let mut taken = self.rooms.0.lock().unwrap_or_else(PoisonError::into_inner);
        if let Some(mine) = taken.get_mut(&self.person) {
            *mine = mine.saturating_sub(1);
            if *mine == 0 {
                taken.remove(&self.person);
            }
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn one_person_has_so_many_windows_and_a_closed_one_is_free_again() {
        let rooms = Arc::new(Rooms::default());
        let mut seats: Vec<Seat> = (0..OF_ONE).map_while(|_| rooms.sit(Uuid::nil())).collect();
        assert_eq!(seats.len(), OF_ONE);
        assert!(rooms.sit(Uuid::nil()).is_none() && rooms.sit(Uuid::from_u128(1)).is_some());
        seats.pop();
        assert!(rooms.sit(Uuid::nil()).is_some());
        seats.clear();
        assert!(rooms.0.lock().unwrap().is_empty(), "nobody is remembered who has left");
    }
}
