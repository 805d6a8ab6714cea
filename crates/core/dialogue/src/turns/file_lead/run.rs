//! File lead as the conversation comes to it.

use lumbo_condition::{Facts, Scored, Scores};
use lumbo_route::Decision;

use crate::plan::{FileNode, Next, Node, ReadyWhen};
use crate::score::{Card, ScoreResult};
use crate::talk::step::Run;
use crate::talk::{Event, Known, Line};

/// Points and bands as routing rules see them at a filing.
struct OfFiling<'a> {
    known: &'a Known<'a>,
    filed: Scored<'a>,
}

impl Scores for OfFiling<'_> {
    fn points(&self, card: Option<&str>) -> Option<i64> {
        if card.is_none() { self.filed.points } else { self.known.points(card) }
    }

    fn band(&self, card: Option<&str>) -> Option<&str> {
        if card.is_none() { self.filed.band } else { self.known.band(card) }
    }
}

/// Reasons of rule-outs that hold and that the author lets the prospect read.
fn told((card, score): (&Card, &ScoreResult)) -> Vec<Line> {
    let is_told = |id: &str| card.file.rule_outs.iter().any(|known| known.id == id && known.told);
    let reasons = score.rule_outs.iter().filter(|held| is_told(&held.id));
    reasons.map(|held| Line::Text { text: held.reason.clone() }).collect()
}

/// What a filing by a card gives now: the score, and which queue gets it.
pub(crate) fn scored(run: &Run<'_>, card: Option<usize>) -> (Option<ScoreResult>, Decision) {
    let plan = run.plan;
    let score = card
        .and_then(|card| plan.cards.get(card))
        .map(|card| run.with_facts(None, |facts| card.score(facts, &plan.language)));
    let band = score.as_ref().and_then(|score| score.band.as_deref());
    let total = score.as_ref().map(|score| score.total);
    let known = run.known(None);
    // Rules read the score of this filing where they name no card.
    let scores = OfFiling { known: &known, filed: Scored { points: total, band } };
    let decision = plan.routes.decide(Facts { lookup: &known, scores: &scores, around: known.around() });
    (score, decision)
}

/// True where something of what a lead must carry is missing.
fn lacks(run: &Run<'_>) -> bool {
    let (fields, values) = (&run.plan.file.fields, &run.state.values);
    run.plan.needs.iter().any(|need| !need.iter().any(|field| values.contains_key(&fields[*field].id)))
}

/// Scores, decides the queue, and takes the arm of the band; the shell writes the records. Where an arm waits for leads
/// that lack something, such a lead takes it and is not filed.
pub(crate) fn run(run: &mut Run<'_>, index: usize, node: &Node, filing: FileNode) -> Option<Next> {
    let FileNode { card, early } = filing;
    if let Some(arm) = node.arms.iter().position(|arm| matches!(arm.when, ReadyWhen::Lacks))
        && lacks(run)
    {
        return Some(run.take(index, Some(arm)));
    }
    let (score, decision) = scored(run, card);
    let band = score.as_ref().and_then(|score| score.band.clone());
    let ruled_out = score.as_ref().is_some_and(|score| !score.rule_outs.is_empty());
    let filing = run.state.filings.saturating_add(1);
    let told = card.and_then(|card| run.plan.cards.get(card)).zip(score.as_ref()).map_or_else(Vec::new, told);
    run.emit(Event::Filed {
        turn: node.id.clone(),
        filing,
        score: score.map(Box::new),
        decision,
        unfinished: false,
        early,
    });
    if !told.is_empty() {
        run.emit(Event::Said { turn: node.id.clone(), lines: told });
    }
    let taken = node.arms.iter().position(|arm| match &arm.when {
        ReadyWhen::Band(bands) => band.as_ref().is_some_and(|band| bands.contains(band)),
        ReadyWhen::RuledOut => ruled_out,
        ReadyWhen::Holds(condition) => run.with_facts(None, |facts| condition.decide(facts).holds()),
        ReadyWhen::Otherwise => true,
        ReadyWhen::Options(_) | ReadyWhen::Lacks | ReadyWhen::Never => false,
    });
    Some(run.take(index, taken))
}
