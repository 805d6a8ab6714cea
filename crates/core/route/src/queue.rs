//! How a queue picks the owner of a lead.

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use uuid::Uuid;

use super::{Share, rotate};

/// A queue as it stands at a pick, read under its lock.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Queue {
    /// Its id.
    pub id: Uuid,
    /// Its name.
    pub name: String,
    /// How it picks.
    pub picks: Picks,
    /// Who takes part, in the order of rotation.
    pub members: Vec<Member>,
    /// Who was picked last.
    pub last: Option<Uuid>,
}

/// How a queue picks.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Picks {
    /// By smooth weighted rotation.
    Rotation,
    /// Always this person, by id and name; nobody where they have left.
    FixedOwner(Option<(Uuid, String)>),
}

/// Somebody who takes part in a queue.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Member {
    /// The person.
    pub person: Uuid,
    /// Their name.
    pub name: String,
    /// Their place in the rotation.
    pub share: Share,
}

/// What a rotation carries over, by member.
pub type Carried = Vec<(Uuid, i64)>;

/// What a queue did; [`super::words`] says it.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Pick {
    /// The fixed owner has it.
    Always(String),
    /// The fixed owner is not there.
    OwnerAway,
    /// Nobody takes part.
    Nobody,
    /// The first pick of the rotation.
    First(String),
    /// The next after somebody else.
    After {
        /// Who is picked.
        name: String,
        /// Who was picked before.
        before: String,
    },
    /// The same as before.
    Again(String),
}

impl Queue {
    /// Picks an owner; with a rotation, what it carries over for each member after it.
    #[must_use]
    pub fn pick(&self) -> (Option<Uuid>, Option<Carried>, Pick) {
        if let Picks::FixedOwner(owner) = &self.picks {
            return match owner {
                Some((person, name)) => (Some(*person), None, Pick::Always(name.clone())),
                None => (None, None, Pick::OwnerAway),
            };
        }
        let mut shares: Vec<Share> = self.members.iter().map(|member| member.share.clone()).collect();
        let Some(picked) = rotate(&mut shares) else { return (None, None, Pick::Nobody) };
        let member = &self.members[picked];
        let name = member.name.clone();
        let pick = match self.last {
            Some(last) if last == member.person => Pick::Again(name),
            Some(last) => match self.members.iter().find(|member| member.person == last) {
                Some(before) => Pick::After { name, before: before.name.clone() },
                None => Pick::First(name),
            },
            None => Pick::First(name),
        };
        (Some(member.person), Some(self.carried(&shares)), pick)
    }

    /// Gives back a turn that a person took: what the rotation then carries over, as if it had not been. Nothing where
    /// the queue has no rotation or the person takes no part any more.
    #[must_use]
    pub fn give_back(&self, person: Uuid) -> Option<Carried> {
        let place =
            self.members.iter().position(|member| member.person == person).filter(|_| self.picks == Picks::Rotation)?;
        let sum: i64 = self.members.iter().map(|member| member.share.weight.max(0)).sum();
        let mut shares: Vec<Share> = self.members.iter().map(|member| member.share.clone()).collect();
        for share in &mut shares {
            share.current = share.current.saturating_sub(share.weight.max(0));
        }
        shares[place].current = shares[place].current.saturating_add(sum);
        Some(self.carried(&shares))
    }

    fn carried(&self, shares: &[Share]) -> Carried {
        self.members.iter().zip(shares).map(|(member, share)| (member.person, share.current)).collect()
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn queue(weights: &[i64]) -> Queue {
        let member = |(index, weight): (usize, &i64)| Member {
            person: Uuid::from_u128(index as u128 + 1),
            name: format!("rep {}", index + 1),
            share: Share { weight: *weight, current: 0 },
        };
        Queue {
            id: Uuid::nil(),
            name: "Saltwick".into(),
            picks: Picks::Rotation,
            members: weights.iter().enumerate().map(member).collect(),
            last: None,
        }
    }

    /// Picks and keeps what came of it, as the store does.
    fn take(queue: &mut Queue) -> String {
        let (owner, carried, pick) = queue.pick();
        for (member, (_, current)) in queue.members.iter_mut().zip(carried.unwrap_or_default()) {
            member.share.current = current;
        }
        queue.last = owner;
        super::super::words::pick_says(&pick, &queue.name)
    }

    #[test]
    fn the_sentence_names_who_was_really_picked_before() {
        let mut both = queue(&[1, 1]);
        assert_eq!(take(&mut both), "Saltwick: rep 1 is first in the rotation");
        assert_eq!(take(&mut both), "Saltwick: rep 2 is next in the rotation after rep 1");
        assert_eq!(take(&mut both), "Saltwick: rep 1 is next in the rotation after rep 2");
        let mut alone = queue(&[1]);
        take(&mut alone);
        assert_eq!(take(&mut alone), "Saltwick: rep 1 is next in the rotation again");
        assert_eq!(take(&mut queue(&[])), "Nobody takes part in Saltwick: it waits in the queue");
        assert_eq!(take(&mut queue(&[0, 0])), "Nobody takes part in Saltwick: it waits in the queue");
    }

    #[test]
    fn a_turn_that_is_given_back_was_never_taken() {
        let mut rotating = queue(&[5, 1, 1]);
        for _ in 0..3 {
            take(&mut rotating);
        }
        let before = rotating.members.clone();
        let (owner, carried, _) = rotating.pick();
        for (member, (_, current)) in rotating.members.iter_mut().zip(carried.unwrap()) {
            member.share.current = current;
        }
        let back = rotating.give_back(owner.unwrap()).unwrap();
        assert_eq!(back, before.iter().map(|member| (member.person, member.share.current)).collect::<Vec<_>>());
        assert_eq!(rotating.give_back(Uuid::from_u128(99)), None);
    }

    #[test]
    fn a_fixed_owner_who_is_away_leaves_it_in_the_queue() {
        let mut fixed = queue(&[1]);
        // Who always gets them need not take part in the rotation.
        fixed.picks = Picks::FixedOwner(Some((Uuid::from_u128(7), "Priya".into())));
        assert_eq!(take(&mut fixed), "Saltwick always goes to Priya");
        fixed.picks = Picks::FixedOwner(None);
        assert_eq!(fixed.pick(), (None, None, Pick::OwnerAway));
    }
}
