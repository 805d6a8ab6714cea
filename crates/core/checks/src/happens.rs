//! What can happen and what cannot, from Reach. Each finding is data first; [`super::words`] makes the sentence.

use std::collections::BTreeSet;

use lumbo_dialogue::file::{Dialogue, FieldType, When};
use lumbo_dialogue::plan::{Kind, Plan};
use lumbo_ways::reach::{Gap, Reach};

use super::words::{Says, labels};
use super::{Finding, Severity};

/// Most questions on one conversation before a hint says so.
const MANY_QUESTIONS: u32 = 15;

pub(super) fn check(dialogue: &Dialogue, plan: &Plan, reach: &Reach, findings: &mut Vec<Finding>) {
    let places = Places { dialogue, plan };
    let mut put = |severity: Severity, at: String, says: &Says<'_>| {
        // What follows from the structure alone was found already.
        if !findings.iter().any(|known| known.key == says.key() && known.at == at && known.says == says.words()) {
            findings.push(Finding::new(says.key(), severity, at, says.words()).mend(says.mend()));
        }
    };
    let sections: BTreeSet<&str> = reach.sections_never.iter().map(String::as_str).collect();
    for id in &reach.sections_never {
        if let Some(section) = dialogue.sections.iter().find(|section| section.id == *id) {
            put(Severity::Warning, id.clone(), &Says::SectionNever { title: &section.title });
        }
    }
    let arms: BTreeSet<&str> = reach.arms_never.iter().map(String::as_str).collect();
    for id in &reach.turns_never {
        let Some((_, node)) = plan.turn(id) else { continue };
        let in_section = sections.contains(plan.sections[node.section].id.as_str());
        if !in_section && !places.in_arm_never(id, &arms) {
            put(Severity::Warning, places.turn(id), &Says::TurnNever);
        }
    }
    for id in &reach.arms_never {
        let Some((turn, words)) = places.arm(id) else { continue };
        let broken = plan.turn(&turn).is_some_and(|(_, node)| matches!(node.kind, Kind::Broken(_)));
        if !broken {
            put(Severity::Warning, places.arm_at(id), &Says::ArmNever { words: &words.0, kind: words.1 });
        }
    }
    for id in &reach.arms_always {
        let Some((_, words)) = places.arm(id) else { continue };
        put(Severity::Warning, places.arm_at(id), &Says::ArmAlways { words: &words.0 });
    }
    for id in &reach.criteria_never {
        put(Severity::Warning, id.clone(), &places.criterion(id, true));
    }
    for id in &reach.criteria_always {
        put(Severity::Hint, id.clone(), &places.criterion(id, false));
    }
    for id in &reach.routes_never {
        put(Severity::Warning, id.clone(), &Says::RouteNever);
    }
    // Without any rule there is a finding of its own.
    if !dialogue.routing.rules.is_empty() && reach.queues.iter().any(|row| row.key == "none") {
        put(Severity::Warning, "routing".to_owned(), &Says::RouteNone);
    }
    for id in &reach.takes_nothing {
        put(Severity::Warning, places.turn(id), &Says::TakesNothing);
    }
    for id in &reach.asked_again {
        let label = plan.turn(id).and_then(|(_, node)| match &node.kind {
            Kind::Ask(ask) => Some(dialogue.fields[ask.field].label.as_str()),
            _ => None,
        });
        put(Severity::Hint, places.turn(id), &Says::AskedAgain { label: label.unwrap_or_default() });
    }
    if let Some(id) = reach.endless.first() {
        put(Severity::Warning, places.turn(id), &Says::Endless);
    }
    for id in &reach.asked_first {
        if let Some(label) = places.contact(id) {
            put(Severity::Warning, places.turn(id), &Says::ContactFirst { label: &label });
        }
    }
    if let Some(most) = reach.questions.and_then(|questions| questions.most).filter(|most| *most > MANY_QUESTIONS) {
        put(Severity::Hint, "outline".to_owned(), &Says::ManyQuestions { most });
    }
    // What cannot be run has an error of its own.
    let over: Vec<String> =
        reach.over.iter().map(|over| over.at.clone()).filter(|at| plan.turn(at).is_none()).collect();
    if !over.is_empty() {
        let each: Vec<String> = over.chunks(1).map(|one| labels(dialogue, one)).collect();
        put(Severity::Hint, "outline".to_owned(), &Says::NotFollowed { labels: each.join(", ") });
    }
    gaps(&places, reach, findings);
}

/// What may be missing, each with a conversation that shows it.
fn gaps(places: &Places<'_>, reach: &Reach, findings: &mut Vec<Finding>) {
    let dialogue = places.dialogue;
    let mut each = |gaps: &[Gap], severity: Severity, says: &dyn Fn(String) -> Says<'static>| {
        for gap in gaps {
            let says = says(labels(dialogue, &gap.fields));
            let mut finding =
                Finding::new(says.key(), severity, places.turn(&gap.turn), says.words()).mend(says.mend());
            finding.way.clone_from(&gap.witness);
            findings.push(finding);
        }
    };
    each(&reach.gaps, Severity::Warning, &|labels| Says::ShownMissing { labels });
    each(&reach.lacking, Severity::Hint, &|labels| Says::ComputedMissing { labels });
    each(&reach.before_consent, Severity::Warning, &|labels| Says::BeforeConsent { labels });
    each(&reach.without_consent, Severity::Warning, &|labels| Says::WithoutConsent { labels });
    // All that a lead may lack where it is filed is one finding.
    let mut filings: Vec<&str> = reach.lacks.iter().map(|gap| gap.turn.as_str()).collect();
    filings.dedup();
    for turn in filings {
        let gaps: Vec<&Gap> = reach.lacks.iter().filter(|gap| gap.turn == turn).collect();
        let says = Says::NeededMissing { needs: gaps.iter().map(|gap| labels(dialogue, &gap.fields)).collect() };
        let mut finding =
            Finding::new(says.key(), Severity::Warning, places.turn(turn), says.words()).mend(says.mend());
        finding.way = gaps.iter().find_map(|gap| gap.witness.clone());
        findings.push(finding);
    }
}

/// Places and names by id.
struct Places<'a> {
    dialogue: &'a Dialogue,
    plan: &'a Plan,
}

impl Places<'_> {
    fn turn(&self, id: &str) -> String {
        self.plan
            .turn(id)
            .map_or_else(|| id.to_owned(), |(_, node)| format!("{}/{}", self.plan.sections[node.section].id, node.id))
    }

    /// The turn of an arm, its words, and what takes it.
    fn arm(&self, id: &str) -> Option<(String, (String, ArmKind))> {
        let mut found = None;
        self.dialogue.each_turn(&mut |_, _, turn| {
            if let Some(place) = turn.arms().iter().position(|arm| arm.id == *id) {
                let kind = match &turn.arms()[place].when {
                    When::Options(_) => ArmKind::Option,
                    When::Otherwise => ArmKind::Otherwise,
                    When::WayOut => ArmKind::WayOut,
                    When::Band(_) | When::RuledOut => ArmKind::Band,
                    When::Lacks => ArmKind::Lacks,
                    When::Holds(_) | When::Answered | When::Refused | When::NoAnswer | When::Booked | When::Joined => {
                        ArmKind::Condition
                    }
                };
                found = Some((turn.id().to_owned(), place, kind));
            }
        });
        let (turn, place, kind) = found?;
        let words = self.plan.turn(&turn)?.1.arms.get(place)?.words.clone();
        Some((turn, (words, kind)))
    }

    fn arm_at(&self, id: &str) -> String {
        self.arm(id).map_or_else(|| id.to_owned(), |(turn, _)| format!("{}/{id}", self.turn(&turn)))
    }

    /// True for a turn that stands in an arm which is never taken.
    fn in_arm_never(&self, id: &str, never: &BTreeSet<&str>) -> bool {
        let mut inside = false;
        self.dialogue.each_turn(&mut |_, _, turn| {
            for arm in turn.arms().iter().filter(|arm| never.contains(arm.id.as_str())) {
                inside |= arm.turns.iter().any(|turn| holds_turn(turn, id));
            }
        });
        inside
    }

    /// The label of the contact field that a turn asks for.
    fn contact(&self, id: &str) -> Option<String> {
        let contact = |field: usize| {
            let field = &self.dialogue.fields[field];
            matches!(field.kind, FieldType::Email | FieldType::Phone | FieldType::PersonName)
                .then(|| field.label.clone())
        };
        match &self.plan.turn(id)?.1.kind {
            Kind::Ask(ask) => contact(ask.field),
            Kind::AskTogether(form) => form.fields.iter().find_map(|wanted| contact(wanted.field)),
            Kind::OpenAsk(open) => {
                open.fields.iter().all(|field| contact(*field).is_some()).then(|| contact(open.fields[0]))?
            }
            Kind::Tell(_)
            | Kind::ReadBack(_)
            | Kind::Fork
            | Kind::WorkOut(_)
            | Kind::FileLead(_)
            | Kind::Visit(_)
            | Kind::Close(_)
            | Kind::Broken(_) => None,
        }
    }

    fn criterion(&self, id: &str, never: bool) -> Says<'static> {
        for card in &self.dialogue.scorecards {
            if card.must_haves.iter().any(|must| must.id == id) {
                return if never { Says::MustNever } else { Says::MustAlways };
            }
            if card.rule_outs.iter().any(|out| out.id == id) {
                return if never { Says::OutNever } else { Says::OutAlways };
            }
        }
        if never { Says::CriterionNever } else { Says::CriterionAlways }
    }
}

fn holds_turn(turn: &lumbo_dialogue::file::Turn, id: &str) -> bool {
    turn.id() == id || turn.arms().iter().flat_map(|arm| &arm.turns).any(|inner| holds_turn(inner, id))
}

/// What takes an arm.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum ArmKind {
    Option,
    Condition,
    Otherwise,
    WayOut,
    Band,
    Lacks,
}
