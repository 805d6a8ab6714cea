//! Rails: the lanes of the outline's gutter, one entry per row of [`crate::rows`].
//!
//! Lane 0 is the trunk. An arm that has turns of its own parts from its turn's lane at its row and runs beside its
//! turns. The first of a turn's arms that rejoins stays on as the line that rejoins below the last arm; it stands
//! right of the arms that follow, which part and come back between it and the trunk, so no lane crosses another, and a
//! turn with any number of arms needs one lane more than its widest arm. Only an arm that leaves to the right may
//! have to cross the line that rejoins. A lane's class says where its arm leads.

use std::collections::BTreeSet;

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use lumbo_dialogue::file::Follow;
use lumbo_dialogue::file::{Arm, Dialogue, OutcomeClass, Section, Then, Turn};

/// Where a lane leads.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum LaneClass {
    /// The trunk.
    Trunk,
    /// Back to the lane it parted from.
    Rejoins,
    /// Elsewhere, with several outcomes still open.
    Ahead,
    /// Only to leads.
    Lead,
    /// Only to not a fit.
    NotAFit,
    /// Only to customers.
    Customer,
    /// Only to people who look.
    Looking,
    /// Only to unfinished.
    Unfinished,
    /// Only to other outcomes.
    Other,
}

/// What a lane does in a row.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Shape {
    /// Runs through.
    Pass,
    /// Begins here.
    Start,
    /// Ends here, with the conversation.
    End,
    /// Parts from lane `from` here and runs on.
    Part,
    /// Runs through and then joins lane `to` at the foot of the row.
    Join,
    /// Leaves to the right with an arrow.
    Leave,
    /// An arm without turns that rejoins: a tick on its turn's lane.
    Tick,
}

/// One mark of a row.
#[derive(Debug, Clone, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize, JsonSchema)]
pub struct Mark {
    /// The lane.
    pub lane: u16,
    /// What it does.
    pub shape: Shape,
    /// The other lane of a part or join.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub other: Option<u16>,
    /// Where it leads.
    pub class: LaneClass,
}

/// The marks of every row, and how many lanes there are.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct Rails {
    /// Lanes needed.
    pub lanes: u16,
    /// Marks by row.
    pub rows: Vec<Vec<Mark>>,
}

/// Lays out the rails.
#[must_use]
pub fn rails(dialogue: &Dialogue) -> Rails {
    let mut layout = Layout { dialogue, rows: Vec::new(), active: vec![(0, LaneClass::Trunk)], lanes: 1 };
    for section in &dialogue.sections {
        layout.active = vec![(0, LaneClass::Trunk)];
        layout.row();
        layout.mark(0, Shape::Start, None, LaneClass::Trunk);
        let alive = layout.turns(&section.turns, 0, LaneClass::Trunk);
        layout.row();
        if alive {
            let shape = if matches!(section.then, Follow::Close(_)) { Shape::End } else { Shape::Leave };
            let class = match &section.then {
                Follow::GoTo(target) => leads_to(dialogue, target),
                Follow::Close(ending) => class_of(dialogue, &ending.outcome),
                Follow::CarryOn | Follow::Return => LaneClass::Trunk,
            };
            let carries_on = matches!(section.then, Follow::CarryOn);
            layout.mark(0, if carries_on { Shape::Pass } else { shape }, None, class);
        }
    }
    Rails { lanes: layout.lanes, rows: layout.rows }
}

struct Layout<'a> {
    dialogue: &'a Dialogue,
    rows: Vec<Vec<Mark>>,
    /// Lanes that run through the next row.
    active: Vec<(u16, LaneClass)>,
    lanes: u16,
}

impl Layout<'_> {
    /// Opens a row that every active lane passes.
    fn row(&mut self) {
        let marks = self
            .active
            .iter()
            .map(|(lane, class)| Mark { lane: *lane, shape: Shape::Pass, other: None, class: *class })
            .collect();
        self.rows.push(marks);
    }

    /// Marks the last row; replaces the lane's pass, except for ticks and empty arms that leave, which stand beside it.
    fn mark(&mut self, lane: u16, shape: Shape, other: Option<u16>, class: LaneClass) {
        self.lanes = self.lanes.max(lane.saturating_add(1)).max(other.map_or(0, |other| other.saturating_add(1)));
        if let Some(row) = self.rows.last_mut() {
            row.retain(|mark| !(mark.lane == lane && mark.shape == Shape::Pass));
            row.push(Mark { lane, shape, other, class });
            row.sort();
        }
    }

    fn beside(&mut self, lane: u16, shape: Shape, class: LaneClass) {
        if let Some(row) = self.rows.last_mut() {
            row.push(Mark { lane, shape, other: None, class });
            row.sort();
        }
    }

    fn drop_lane(&mut self, lane: u16) {
        self.active.retain(|(active, _)| *active != lane);
    }

    /// Lays out turns on a lane; false where a Close ended it.
    fn turns(&mut self, turns: &[Turn], lane: u16, class: LaneClass) -> bool {
        for (order, turn) in turns.iter().enumerate() {
            self.row();
            if matches!(turn, Turn::Close(_)) {
                self.mark(lane, Shape::End, None, class);
                self.drop_lane(lane);
                // What stands below a Close is never reached; it has no lane.
                for below in &turns[order + 1..] {
                    self.row();
                    self.arms(below, lane);
                }
                return false;
            }
            self.arms(turn, lane);
        }
        true
    }

    fn arms(&mut self, turn: &Turn, lane: u16) {
        let arms = turn.arms();
        let rejoining = arms.iter().position(|arm| !arm.turns.is_empty() && rejoins(arm));
        let mut line: Option<(u16, LaneClass)> = None;
        for (order, arm) in arms.iter().enumerate() {
            self.row();
            let class = arm_class(self.dialogue, arm);
            if arm.turns.is_empty() {
                let shape = if matches!(arm.then, Then::Rejoin) { Shape::Tick } else { Shape::Leave };
                self.beside(lane, shape, class);
                continue;
            }
            let stays = rejoining == Some(order);
            let own = if stays { lane + 1 + later_width(&arms[order + 1..]) } else { lane + 1 };
            self.mark(own, Shape::Part, Some(lane), class);
            self.active.push((own, class));
            let alive = self.turns(&arm.turns, own, class);
            if !alive {
                self.drop_lane(own);
            } else if !matches!(arm.then, Then::Rejoin) {
                self.mark(own, Shape::Leave, None, class);
                self.drop_lane(own);
            } else if stays {
                line = Some((own, class));
            } else if let Some((to, _)) = line {
                self.mark(own, Shape::Join, Some(to), class);
                self.drop_lane(own);
            }
        }
        if let Some((own, class)) = line {
            self.mark(own, Shape::Join, Some(lane), class);
            self.drop_lane(own);
        }
    }
}

fn rejoins(arm: &Arm) -> bool {
    matches!(arm.then, Then::Rejoin) && !arm.turns.iter().any(|turn| matches!(turn, Turn::Close(_)))
}

fn later_width(arms: &[Arm]) -> u16 {
    arms.iter().filter(|arm| !arm.turns.is_empty()).map(arm_width).max().unwrap_or(0)
}

/// Lanes that an arm needs, its own included.
fn arm_width(arm: &Arm) -> u16 {
    1 + arm.turns.iter().map(turn_width).max().unwrap_or(0)
}

fn turn_width(turn: &Turn) -> u16 {
    let arms = turn.arms();
    let rejoining = arms.iter().position(|arm| !arm.turns.is_empty() && rejoins(arm));
    arms.iter()
        .enumerate()
        .filter(|(_, arm)| !arm.turns.is_empty())
        .map(|(order, arm)| arm_width(arm) + if rejoining == Some(order) { later_width(&arms[order + 1..]) } else { 0 })
        .max()
        .unwrap_or(0)
}

/// Where an arm leads.
#[must_use]
pub fn arm_class(dialogue: &Dialogue, arm: &Arm) -> LaneClass {
    if let Some(Turn::Close(close)) = arm.turns.iter().find(|turn| matches!(turn, Turn::Close(_))) {
        return class_of(dialogue, &close.outcome);
    }
    match &arm.then {
        Then::Rejoin => LaneClass::Rejoins,
        Then::Close(ending) => class_of(dialogue, &ending.outcome),
        Then::GoTo(section) => leads_to(dialogue, section),
    }
}

fn class_of(dialogue: &Dialogue, outcome: &str) -> LaneClass {
    dialogue.outcomes.iter().find(|known| known.id == outcome).map_or(LaneClass::Other, |outcome| match outcome.class {
        OutcomeClass::Lead => LaneClass::Lead,
        OutcomeClass::NotAFit => LaneClass::NotAFit,
        OutcomeClass::Customer => LaneClass::Customer,
        OutcomeClass::Looking => LaneClass::Looking,
        OutcomeClass::Unfinished => LaneClass::Unfinished,
        OutcomeClass::Other => LaneClass::Other,
    })
}

/// The one class of outcome that a section can end in, following every go-to, or that several are open.
fn leads_to(dialogue: &Dialogue, section: &str) -> LaneClass {
    let mut found = BTreeSet::new();
    let mut seen = BTreeSet::new();
    let mut todo = vec![section];
    while let Some(id) = todo.pop() {
        let Some(index) = dialogue.sections.iter().position(|section| section.id == id) else { continue };
        if !seen.insert(id) {
            continue;
        }
        let section: &Section = &dialogue.sections[index];
        let ended = collect(dialogue, &section.turns, &mut found, &mut todo);
        if ended {
            continue;
        }
        match &section.then {
            Follow::CarryOn => todo.extend(dialogue.sections.get(index + 1).map(|section| section.id.as_str())),
            Follow::GoTo(target) => todo.push(target),
            Follow::Close(ending) => {
                found.insert(class_of(dialogue, &ending.outcome));
            }
            Follow::Return => {}
        }
    }
    match (found.len(), found.first()) {
        (1, Some(class)) => *class,
        _ => LaneClass::Ahead,
    }
}

fn collect<'a>(
    dialogue: &Dialogue,
    turns: &'a [Turn],
    found: &mut BTreeSet<LaneClass>,
    todo: &mut Vec<&'a str>,
) -> bool {
    for turn in turns {
        if let Some(outcome) = turn.ends_as() {
            found.insert(class_of(dialogue, outcome));
            return true;
        }
        todo.extend(turn.leads_to().map(|(section, _)| section.as_str()));
        for arm in turn.arms() {
            if !collect(dialogue, &arm.turns, found, todo) {
                match &arm.then {
                    Then::GoTo(target) => todo.push(target),
                    Then::Close(ending) => {
                        found.insert(class_of(dialogue, &ending.outcome));
                    }
                    Then::Rejoin => {}
                }
            }
        }
    }
    false
}

#[cfg(test)]
mod tests;
