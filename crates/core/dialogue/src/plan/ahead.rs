//! How many questions may still come, for the progress hint.

use super::{Kind, Next, Plan};

/// Most questions from each turn to an end, counting a loop once. Used for the progress hint only.
pub(super) fn most_questions(plan: &Plan) -> Vec<u16> {
    #[derive(Clone, Copy, PartialEq)]
    enum Mark {
        New,
        Open,
        Done(u16),
    }
    fn of(plan: &Plan, next: Next, marks: &mut [Mark], depth: usize) -> u16 {
        // Long chains are followed in order from the back (see below), so the recursion stays shallow.
        if depth > 200 {
            return 0;
        }
        match next {
            Next::Turn(index) => match marks[index] {
                Mark::Done(count) => count,
                Mark::Open => 0,
                Mark::New => {
                    marks[index] = Mark::Open;
                    let node = &plan.turns[index];
                    let own = u16::from(node.kind.asks());
                    let inside = match node.kind {
                        Kind::Visit(section) => of(plan, plan.sections[section].entry, marks, depth + 1),
                        _ => 0,
                    };
                    let arms = node.arms.iter().map(|arm| of(plan, arm.entry, marks, depth + 1)).max().unwrap_or(0);
                    let below =
                        if matches!(node.kind, Kind::Close(_)) { 0 } else { of(plan, node.next, marks, depth + 1) };
                    let count = own + inside + arms.max(below);
                    marks[index] = Mark::Done(count);
                    count
                }
            },
            Next::Close(_) | Next::Nowhere | Next::Wait => 0,
            other => plan.targets(other).into_iter().map(|next| of(plan, next, marks, depth + 1)).max().unwrap_or(0),
        }
    }
    let mut marks = vec![Mark::New; plan.turns.len()];
    // From the back, so that a carrying-on chain finds what follows it done already.
    for index in (0..plan.turns.len()).rev() {
        of(plan, Next::Turn(index), &mut marks, 0);
    }
    marks.into_iter().map(|mark| if let Mark::Done(count) = mark { count } else { 0 }).collect()
}
