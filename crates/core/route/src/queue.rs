//! How a queue picks the owner of a lead: who is free, whose turn it is, and where a lead goes that nobody can take.

use jiff::Timestamp;
use lumbo_calendar::Calendar;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use uuid::Uuid;

use super::{Share, rotate};

/// A queue as it stands at a pick, read under its lock.
#[derive(Debug, Clone)]
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
    /// When it is open; always where absent.
    pub hours: Option<Calendar>,
    /// True where a lead goes on to the next queue of the chain while this one is closed; else it waits for the
    /// opening.
    pub passes_on: bool,
}

/// How a queue picks.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Picks {
    /// By smooth weighted rotation.
    Rotation,
    /// Who has the fewest open leads for their weight; the first of equals.
    FewestOpen,
    /// Whoever has a lead of the same company; by rotation where none of them has.
    SameCompany,
    /// Always this person; nobody where they have left, or are away without a deputy.
    FixedOwner(Option<Holder>),
}

/// Whoever has what falls to somebody: they themselves, or their deputy while they are away.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Holder {
    /// The person.
    pub person: Uuid,
    /// Their name.
    pub name: String,
    /// Whom they stand in for, by name.
    pub stands_in_for: Option<String>,
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
    /// What they have on their hands.
    pub load: Load,
    /// How much they take.
    pub limits: Limits,
    /// What they can: languages, regions, products.
    pub skills: Vec<String>,
    /// True while they take no new leads.
    pub paused: bool,
    /// Until when they are away.
    pub away_until: Option<Timestamp>,
}

/// What somebody has on their hands.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq)]
pub struct Load {
    /// Leads that nobody has tried to reach yet.
    pub untried: u32,
    /// Leads that they got today.
    pub today: u32,
    /// All open leads.
    pub open: u32,
}

/// How much somebody takes; no limit where absent.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq)]
pub struct Limits {
    /// Untried leads at once.
    pub untried: Option<u32>,
    /// New leads a day, of the queue's zone.
    pub a_day: Option<u32>,
}

/// What a rotation carries over, by member.
pub type Carried = Vec<(Uuid, i64)>;

/// Why somebody is passed over.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum PassedOver {
    /// They take no new leads at the moment.
    Paused,
    /// They are away.
    Away {
        /// Until when, RFC 3339.
        #[schemars(with = "String")]
        until: Timestamp,
    },
    /// They have as many untried leads as they take.
    Full {
        /// How many they have.
        untried: u32,
        /// How many they take.
        of: u32,
    },
    /// They got as many leads today as they take a day.
    FullToday {
        /// How many they take a day.
        of: u32,
    },
    /// They lack a skill.
    Lacks(String),
}

/// What a queue did, a step at a time; [`super::words`] says it.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Pick {
    /// The fixed owner has it.
    Always(String),
    /// The fixed owner is away, and their deputy has it.
    StandsIn {
        /// Who has it.
        name: String,
        /// Whom they stand in for.
        of: String,
    },
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
    /// Who has the fewest open leads for their weight.
    Fewest {
        /// Who is picked.
        name: String,
        /// Their open leads.
        open: u32,
    },
    /// Who has a lead of the same company.
    Company(String),
    /// Somebody is passed over.
    Over {
        /// Who.
        name: String,
        /// Why.
        why: PassedOver,
    },
    /// Everybody was passed over.
    NobodyFree,
    /// It is closed, and the lead waits for the opening.
    Closed {
        /// When it opens, RFC 3339; absent where it never does.
        #[schemars(with = "Option<String>")]
        opens: Option<Timestamp>,
    },
    /// It is closed or nobody is free, and the next queue of the chain is asked.
    PassedOn,
}

/// What was asked of a queue.
#[derive(Debug, Clone, Copy)]
pub struct Wanted<'a> {
    /// The moment.
    pub now: Timestamp,
    /// What a rep must have.
    pub skills: &'a [String],
    /// Who has leads of the same company, the newest lead's owner first.
    pub company: &'a [Uuid],
}

/// What one queue came to.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Picked {
    /// The owner; absent where nobody has it.
    pub owner: Option<Uuid>,
    /// What the rotation carries over for each member after it, where one was turned.
    pub carried: Option<Carried>,
    /// What it did.
    pub steps: Vec<Pick>,
    /// When a lead that waits is dealt; absent where it waits for nobody, or has an owner.
    pub waits: Option<Timestamp>,
}

/// What a chain of queues came to.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Chosen {
    /// Place of the queue that has the lead.
    pub queue: usize,
    /// What it came to there.
    pub picked: Picked,
    /// What each queue did, by its place, in order.
    pub steps: Vec<(usize, Pick)>,
}

impl Member {
    /// Why they are passed over; nothing where they are free.
    fn passed_over(&self, wanted: &Wanted<'_>) -> Option<PassedOver> {
        if self.paused {
            return Some(PassedOver::Paused);
        }
        if let Some(until) = self.away_until.filter(|until| *until > wanted.now) {
            return Some(PassedOver::Away { until });
        }
        let has = |skill: &String| self.skills.iter().any(|known| known.eq_ignore_ascii_case(skill));
        if let Some(skill) = wanted.skills.iter().find(|skill| !has(skill)) {
            return Some(PassedOver::Lacks(skill.clone()));
        }
        match (self.limits.untried, self.limits.a_day) {
            (Some(of), _) if self.load.untried >= of => Some(PassedOver::Full { untried: self.load.untried, of }),
            (_, Some(of)) if self.load.today >= of => Some(PassedOver::FullToday { of }),
            _ => None,
        }
    }
}

/// Asks the first queue, then the next of its chain where it can give the lead to nobody; at last the first one has it,
/// without an owner. Nothing where there is no queue.
#[must_use]
pub fn choose(chain: &[Queue], wanted: &Wanted<'_>) -> Option<Chosen> {
    let mut steps = Vec::new();
    let mut first = None;
    for (place, queue) in chain.iter().enumerate() {
        let picked = queue.pick(wanted);
        steps.extend(picked.steps.iter().map(|step| (place, step.clone())));
        // A closed queue keeps what it does not pass on.
        let keeps = picked.owner.is_some() || (picked.waits.is_some() && !queue.passes_on);
        if keeps {
            return Some(Chosen { queue: place, picked, steps });
        }
        if place + 1 < chain.len() {
            steps.push((place, Pick::PassedOn));
        }
        first.get_or_insert(picked);
    }
    first.map(|picked| Chosen { queue: 0, picked, steps })
}

impl Queue {
    /// Picks an owner.
    #[must_use]
    pub fn pick(&self, wanted: &Wanted<'_>) -> Picked {
        let nobody = |steps: Vec<Pick>, waits| Picked { owner: None, carried: None, steps, waits };
        if let Some(hours) = &self.hours
            && !hours.is_open(wanted.now)
        {
            let opens = hours.opens(wanted.now);
            return nobody(vec![Pick::Closed { opens }], opens);
        }
        if let Picks::FixedOwner(owner) = &self.picks {
            return match owner {
                Some(Holder { person, name, stands_in_for }) => {
                    let name = name.clone();
                    let step = match stands_in_for.clone() {
                        Some(of) => Pick::StandsIn { name, of },
                        None => Pick::Always(name),
                    };
                    Picked { owner: Some(*person), carried: None, steps: vec![step], waits: None }
                }
                None => nobody(vec![Pick::OwnerAway], None),
            };
        }
        if self.members.iter().all(|member| member.share.weight <= 0) {
            return nobody(vec![Pick::Nobody], None);
        }
        // Who is passed over neither gains nor spends weight.
        let (mut steps, mut free) = (Vec::new(), Vec::new());
        for (place, member) in self.members.iter().enumerate().filter(|(_, member)| member.share.weight > 0) {
            match member.passed_over(wanted) {
                Some(why) => steps.push(Pick::Over { name: member.name.clone(), why }),
                None => free.push(place),
            }
        }
        if free.is_empty() {
            steps.push(Pick::NobodyFree);
            return nobody(steps, None);
        }
        if self.picks == Picks::FewestOpen {
            // Open leads for each unit of weight, compared without dividing.
            let load = |place: &usize| {
                let member = &self.members[*place];
                (i128::from(member.load.open), i128::from(member.share.weight))
            };
            let fewest = free.into_iter().min_by(|one, other| {
                let ((one, its), (other, theirs)) = (load(one), load(other));
                (one * theirs).cmp(&(other * its))
            });
            let Some(member) = fewest.map(|place| &self.members[place]) else { return nobody(steps, None) };
            steps.push(Pick::Fewest { name: member.name.clone(), open: member.load.open });
            return Picked { owner: Some(member.person), carried: None, steps, waits: None };
        }
        if self.picks == Picks::SameCompany
            && let Some(member) = wanted
                .company
                .iter()
                .find_map(|owner| free.iter().map(|place| &self.members[*place]).find(|member| member.person == *owner))
        {
            steps.push(Pick::Company(member.name.clone()));
            return Picked { owner: Some(member.person), carried: None, steps, waits: None };
        }
        let mut shares: Vec<Share> = free.iter().map(|place| self.members[*place].share.clone()).collect();
        let Some(turn) = rotate(&mut shares) else { return nobody(vec![Pick::Nobody], None) };
        let member = &self.members[free[turn]];
        let name = member.name.clone();
        steps.push(match self.last {
            Some(last) if last == member.person => Pick::Again(name),
            Some(last) => match self.members.iter().find(|member| member.person == last) {
                Some(before) => Pick::After { name, before: before.name.clone() },
                None => Pick::First(name),
            },
            None => Pick::First(name),
        });
        let carried = free.iter().zip(&shares).map(|(place, share)| (self.members[*place].person, share.current));
        Picked { owner: Some(member.person), carried: Some(carried.collect()), steps, waits: None }
    }

    /// How far a pick moved each member's place in the rotation; taken away again, the turn was never taken, whatever
    /// was picked since.
    #[must_use]
    pub fn moved(&self, carried: &Carried) -> Carried {
        let before = |person: Uuid| {
            self.members.iter().find(|member| member.person == person).map_or(0, |member| member.share.current)
        };
        carried.iter().map(|(person, after)| (*person, after.saturating_sub(before(*person)))).collect()
    }

    /// Moves members' places in the rotation; those who take no part any more are left out.
    pub fn move_by(&mut self, moved: &Carried) {
        for (person, by) in moved {
            if let Some(member) = self.members.iter_mut().find(|member| member.person == *person) {
                member.share.current = member.share.current.saturating_add(*by);
            }
        }
    }
}

/// The moves that undo these.
#[must_use]
pub fn given_back(moved: &Carried) -> Carried {
    moved.iter().map(|(person, by)| (*person, by.saturating_neg())).collect()
}

#[cfg(test)]
mod tests {
    use proptest::prelude::*;

    use super::*;
    use crate::words::pick_says;

    fn now() -> Timestamp {
        "2026-11-24T11:42:00Z".parse().unwrap()
    }

    fn wanted(skills: &[String]) -> Wanted<'_> {
        Wanted { now: now(), skills, company: &[] }
    }

    fn queue(weights: &[i64]) -> Queue {
        let member = |(index, weight): (usize, &i64)| Member {
            person: Uuid::from_u128(index as u128 + 1),
            name: format!("rep {}", index + 1),
            share: Share { weight: *weight, current: 0 },
            load: Load::default(),
            limits: Limits::default(),
            skills: Vec::new(),
            paused: false,
            away_until: None,
        };
        Queue {
            id: Uuid::nil(),
            name: "Saltwick".into(),
            picks: Picks::Rotation,
            members: weights.iter().enumerate().map(member).collect(),
            last: None,
            hours: None,
            passes_on: false,
        }
    }

    fn open_from_eight() -> Calendar {
        let hours = serde_json::json!({"zone": "Europe/London", "hours": {"wed": [["08:00", "17:30"]]}});
        Calendar::new(&serde_json::from_value(hours).unwrap()).unwrap()
    }

    /// Picks and keeps what came of it, as the store does.
    fn take(queue: &mut Queue) -> String {
        let Picked { owner, carried, steps, .. } = queue.pick(&wanted(&[]));
        for (person, current) in carried.unwrap_or_default() {
            if let Some(member) = queue.members.iter_mut().find(|member| member.person == person) {
                member.share.current = current;
            }
        }
        queue.last = owner.or(queue.last);
        steps.iter().map(|step| pick_says(step, &queue.name)).collect::<Vec<_>>().join("; ")
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
        // One who is passed over neither gains nor spends weight, and the turn is given back all the same.
        rotating.members[2].paused = true;
        let before = rotating.members.clone();
        let Picked { carried, .. } = rotating.pick(&wanted(&[]));
        let carried = carried.unwrap();
        let moved = rotating.moved(&carried);
        rotating.move_by(&moved);
        assert_eq!(carried[0], (rotating.members[0].person, rotating.members[0].share.current));
        rotating.move_by(&given_back(&moved));
        assert_eq!(rotating.members, before);
    }

    #[test]
    fn whoever_has_a_lead_of_the_same_company_goes_before_the_rotation() {
        let mut three = queue(&[1, 1, 1]);
        three.picks = Picks::SameCompany;
        let [stranger, second] = [99, 2].map(Uuid::from_u128);
        let wanted = Wanted { company: &[stranger, second], ..wanted(&[]) };
        let picked = three.pick(&wanted);
        assert_eq!((picked.owner, picked.carried), (Some(second), None), "no turn is spent");
        assert_eq!(pick_says(&picked.steps[0], "Saltwick"), "Saltwick: rep 2 has a lead of the same company");
        // Who cannot take it is passed over, and the rotation has it.
        three.members[1].paused = true;
        let picked = three.pick(&wanted);
        assert_eq!(picked.owner, Some(Uuid::from_u128(1)));
        assert!(picked.carried.is_some());
    }

    #[test]
    fn a_fixed_owner_who_is_away_leaves_it_in_the_queue() {
        let mut fixed = queue(&[1]);
        // Who always gets them need not take part in the rotation.
        fixed.picks =
            Picks::FixedOwner(Some(Holder { person: Uuid::from_u128(7), name: "Priya".into(), stands_in_for: None }));
        assert_eq!(take(&mut fixed), "Saltwick always goes to Priya");
        fixed.picks = Picks::FixedOwner(None);
        assert_eq!(fixed.pick(&wanted(&[])).steps, [Pick::OwnerAway]);
    }

    #[test]
    fn who_is_paused_full_or_lacks_a_skill_is_passed_over_and_it_is_said() {
        let mut four = queue(&[1, 1, 1, 1]);
        four.members[0].paused = true;
        four.members[1].limits.untried = Some(10);
        four.members[1].load.untried = 10;
        four.members[2].limits.a_day = Some(25);
        four.members[2].load.today = 25;
        assert_eq!(
            take(&mut four),
            "Saltwick: rep 1 takes no new leads at the moment; Saltwick: rep 2 is full, 10 of 10 untried; \
             Saltwick: rep 3 has had the 25 leads of a day; Saltwick: rep 4 is first in the rotation"
        );
        let polish = ["Polish".to_owned()];
        let picked = four.pick(&wanted(&polish));
        assert_eq!((picked.owner, picked.steps.last()), (None, Some(&Pick::NobodyFree)));
        four.members[3].skills = vec!["polish".into()];
        assert_eq!(four.pick(&wanted(&polish)).owner, Some(Uuid::from_u128(4)));
    }

    #[test]
    fn who_was_passed_over_neither_gains_nor_spends_weight() {
        let mut three = queue(&[1, 1, 1]);
        three.members[1].paused = true;
        let names: Vec<String> = (0..4).map(|_| take(&mut three)).collect();
        assert!(names.iter().all(|says| !says.contains("rep 2 is next")));
        assert_eq!(three.members[1].share.current, 0);
        three.members[1].paused = false;
        // Back again, they take turns like everybody, and are owed none.
        let after: Vec<usize> = (0..6)
            .map(|_| [1, 2, 3].into_iter().find(|rep| take(&mut three).contains(&format!("rep {rep} is"))).unwrap_or(0))
            .collect();
        assert!(after.iter().filter(|rep| **rep == 2).count() <= 3, "{after:?}");
    }

    #[test]
    fn the_fewest_open_leads_are_counted_by_weight() {
        let mut two = queue(&[2, 1]);
        two.picks = Picks::FewestOpen;
        two.members[0].load.open = 5;
        two.members[1].load.open = 3;
        assert_eq!(
            two.pick(&wanted(&[])).owner,
            Some(Uuid::from_u128(1)),
            "five of weight two are fewer than three of one"
        );
        two.members[0].load.open = 6;
        assert_eq!(two.pick(&wanted(&[])).owner, Some(Uuid::from_u128(1)), "the first of equals");
        two.members[0].load.open = 7;
        assert_eq!(take(&mut two), "Saltwick: rep 2 has the fewest open leads, 3");
    }

    #[test]
    fn a_closed_queue_keeps_its_leads_for_the_opening_unless_it_passes_them_on() {
        let mut closed = queue(&[1]);
        closed.hours = Some(open_from_eight());
        let other = Queue { id: Uuid::from_u128(9), name: "Senior".into(), ..queue(&[1]) };
        let chosen = choose(&[closed.clone(), other.clone()], &wanted(&[])).unwrap();
        assert_eq!((chosen.queue, chosen.picked.owner), (0, None));
        assert_eq!(chosen.picked.waits, Some("2026-11-25T08:00:00Z".parse().unwrap()));
        closed.passes_on = true;
        let chosen = choose(&[closed.clone(), other], &wanted(&[])).unwrap();
        assert_eq!((chosen.queue, chosen.picked.owner), (1, Some(Uuid::from_u128(1))));
        assert!(matches!(
            chosen.steps.as_slice(),
            [(0, Pick::Closed { .. }), (0, Pick::PassedOn), (1, Pick::First(_))]
        ));
        // The last of the chain keeps it all the same.
        let alone = choose(&[closed], &wanted(&[])).unwrap();
        assert!(alone.picked.waits.is_some());
        assert!(choose(&[], &wanted(&[])).is_none());
    }

    #[test]
    fn where_nobody_of_the_chain_is_free_the_first_queue_has_it() {
        let full = |id: u128| {
            let mut queue = queue(&[1, 1]);
            queue.id = Uuid::from_u128(id);
            queue.members.iter_mut().for_each(|member| member.paused = true);
            queue
        };
        let chosen = choose(&[full(1), full(2)], &wanted(&[])).unwrap();
        assert_eq!((chosen.queue, chosen.picked.owner, chosen.picked.waits), (0, None, None));
        assert_eq!(chosen.steps.iter().filter(|(_, step)| *step == Pick::NobodyFree).count(), 2);
    }

    prop_compose! {
        fn any_member()(weight in 0..4_i64, untried in 0..4_u32, limit in prop::option::of(0..4_u32), today in 0..3_u32,
            day in prop::option::of(0..3_u32), paused in any::<bool>(), skilled in any::<bool>()) -> (i64, Load, Limits, bool, bool) {
            (weight, Load { untried, today, open: untried }, Limits { untried: limit, a_day: day }, paused, skilled)
        }
    }

    proptest! {
        /// A turn given back later, whoever was picked and paused in between, leaves the rotation as if the others had
        /// been picked without it.
        #[test]
        fn a_turn_given_back_moves_nobody_in_sum(
            weights in prop::collection::vec(1..5_i64, 2..5), between in prop::collection::vec(0..5_usize, 0..6),
        ) {
            let mut rotating = queue(&weights);
            let moved = rotating.moved(&rotating.pick(&wanted(&[])).carried.unwrap());
            prop_assert_eq!(moved.iter().map(|(_, by)| by).sum::<i64>(), 0);
            rotating.move_by(&moved);
            let mut without = queue(&weights);
            for pauses in between {
                let carried = |one: &Queue| one.pick(&wanted(&[])).carried.map(|carried| one.moved(&carried));
                let place = pauses % weights.len();
                rotating.members[place].paused = !rotating.members[place].paused;
                let Some(turn) = carried(&rotating) else { continue };
                rotating.move_by(&turn);
                without.move_by(&turn);
            }
            rotating.move_by(&given_back(&moved));
            let places = |queue: &Queue| queue.members.iter().map(|member| member.share.current).collect::<Vec<_>>();
            prop_assert_eq!(places(&rotating), places(&without));
        }

        /// Whoever is picked is within limits, has the skills and is not paused; and a chain always ends, naming its
        /// steps.
        #[test]
        fn a_lead_is_never_given_to_somebody_who_cannot_take_it(
            queues in prop::collection::vec(prop::collection::vec(any_member(), 0..5), 1..4),
            picks in prop::sample::select(vec![Picks::Rotation, Picks::FewestOpen, Picks::SameCompany]),
            skill in any::<bool>(),
        ) {
            let chain: Vec<Queue> = queues.iter().enumerate().map(|(place, members)| {
                let mut made = queue(&members.iter().map(|member| member.0).collect::<Vec<_>>());
                made.id = Uuid::from_u128(place as u128);
                made.picks = picks.clone();
                for (member, (_, load, limits, paused, skilled)) in made.members.iter_mut().zip(members) {
                    (member.load, member.limits, member.paused) = (*load, *limits, *paused);
                    if *skilled { member.skills = vec!["Polish".into()]; }
                }
                made
            }).collect();
            let skills = if skill { vec!["Polish".to_owned()] } else { Vec::new() };
            let company = [Uuid::from_u128(2), Uuid::from_u128(1)];
            let chosen = choose(&chain, &Wanted { company: &company, ..wanted(&skills) }).unwrap();
            prop_assert!(!chosen.steps.is_empty());
            if let Some(owner) = chosen.picked.owner {
                let member = chain[chosen.queue].members.iter().find(|member| member.person == owner).unwrap();
                prop_assert!(member.share.weight > 0 && !member.paused);
                prop_assert!(member.limits.untried.is_none_or(|of| member.load.untried < of));
                prop_assert!(member.limits.a_day.is_none_or(|of| member.load.today < of));
                prop_assert!(!skill || member.skills == ["Polish"]);
            } else {
                prop_assert_eq!(chosen.queue, 0);
            }
        }
    }
}
