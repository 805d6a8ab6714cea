//! Who leaves before the end, and can be reached, becomes a lead marked unfinished: after a while of silence, by the
//! same scorecard and rules as at the dialogue's first File lead, ranked by the points so far.

use jiff::{SignedDuration, Timestamp};

use super::step::Run;
use super::{Effect, Event, State, Timer};
use crate::file::{Field, FieldType};
use crate::plan::{Kind, Plan};
use crate::turns::file_lead;
use lumbo_value::Value;

/// When silence that begins now makes a lead of what was said; nothing where its author wants none.
#[must_use]
pub fn unfinished_limit(plan: &Plan, heard_at: Timestamp) -> Option<Timestamp> {
    let minutes = plan.file.settings.unfinished_minutes;
    (minutes > 0).then(|| heard_at.checked_add(SignedDuration::from_mins(minutes.into())).ok()).flatten()
}

/// True where what was said so far makes a lead by itself: the dialogue files leads and has not come to it, an e-mail
/// address or a phone number was given, and so was consent where the dialogue asks for one.
pub(super) fn makes_a_lead(plan: &Plan, state: &State) -> bool {
    let held = |field: &Field| state.values.get(&field.id).map(|held| &held.value);
    let reached = plan.file.fields.iter().any(|field| reaches(field.kind) && held(field).is_some());
    let asked = plan.corrected.1.iter().map(|field| &plan.file.fields[*field]);
    let mut consents = asked.filter(|field| field.kind == FieldType::Consent).peekable();
    let given = |field: &Field| matches!(held(field), Some(Value::Consent { given: true, .. }));
    state.closed.is_none()
        // Filed again only where something was said since.
        && (state.filings == 0 || state.unfinished.is_some_and(|at| state.heard_at > Some(at)))
        && plan.file.settings.unfinished_minutes > 0
        && first_filing(plan).is_some()
        && reached
        && (consents.peek().is_none() || consents.any(given))
}

/// True for what somebody can be reached by.
fn reaches(kind: FieldType) -> bool {
    matches!(kind, FieldType::Email | FieldType::Phone)
}

/// The scorecard of the dialogue's first File lead; nothing where it files none.
pub(super) fn first_filing(plan: &Plan) -> Option<Option<usize>> {
    plan.turns.iter().find_map(|node| match node.kind {
        Kind::FileLead(filing) => Some(filing.card),
        _ => None,
    })
}

impl Run<'_> {
    /// Files what was said as a lead that was left unfinished, at the turn that is open.
    pub(super) fn file_unfinished(&mut self) {
        let Some(card) = first_filing(self.plan) else { return };
        let (score, decision) = file_lead::scored(self, card);
        let turn = self.state.asking.as_ref().map(|asking| asking.turn.clone()).unwrap_or_default();
        let filing = self.state.filings.saturating_add(1);
        self.emit(Event::Filed { turn, filing, score: score.map(Box::new), decision, unfinished: true, early: false });
    }

    /// Sets the timer that makes a lead of what was said, once somebody can be reached; again when more was said after
    /// such a filing. One that runs already stays.
    pub(super) fn watch_for_silence(&mut self) {
        let again = self.state.unfinished.is_some();
        let reached = |event: &Event| {
            let (Event::Kept { field, .. } | Event::Prefilled { field, .. }) = event else { return false };
            let may_matter = |kind: FieldType| reaches(kind) || kind == FieldType::Consent;
            again || self.plan.field(field).is_some_and(|field| may_matter(field.kind))
        };
        if self.events.iter().any(reached)
            && makes_a_lead(self.plan, self.state)
            && let Some(at) = unfinished_limit(self.plan, self.now)
        {
            self.effects.push(Effect::Wake { timer: Timer::Unfinished, at });
        }
    }
}
