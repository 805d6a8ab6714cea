//! Witnesses: for what was found possible, the replies of a conversation that does it, traced back piece by piece and
//! then held with the engine.

use std::collections::{BTreeMap, BTreeSet};

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

use lumbo_dialogue::file::FieldType;
use lumbo_dialogue::plan::{AskNode, Kind};
use lumbo_dialogue::talk::script::{Line, line, run_from};
use lumbo_dialogue::talk::{Beginning, Context, Env, Event, Prefill, PrefillTo, State};
use lumbo_reading::Reading;
use lumbo_reading::domains::DomainLists;

use super::cells::{FIRST, FORGOTTEN, MISSING, Mask, NOT_ASKED, Taken, declining, each};
use super::explore::Explorer;
use super::moves::Exit;
use super::score::{Cloud, Seen, Sums};

/// Most replies of one witness.
const MOST_REPLIES: usize = 400;

/// The replies of a conversation, as a rehearsal takes them, with what is known before it.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
pub struct Witness {
    /// What the site knows before the first question, by field key.
    #[serde(default, skip_serializing_if = "BTreeMap::is_empty")]
    pub known: BTreeMap<String, String>,
    /// What is known without asking, such as the device.
    #[serde(default, skip_serializing_if = "BTreeMap::is_empty")]
    pub around: BTreeMap<String, String>,
    /// One reply a line.
    pub replies: Vec<String>,
}

/// What a trace ends with.
pub(crate) enum Goal<'a> {
    /// A piece, with the sums of one card.
    Part(usize, Option<(usize, Sums)>),
    /// A node where a field has one of these cells.
    Node(usize, &'a [(usize, Mask)]),
    /// A filing at a node whose sums by a card are wanted.
    Filing(usize, usize, &'a dyn Fn(&Sums) -> bool),
}

/// One cell of each field that is followed.
type Point = Vec<Option<usize>>;

/// Where a trace begins: the piece, a point of it, and the sums of one card.
type Last = (usize, Point, Option<(usize, Sums)>);

/// One step of a trace: the turn that was left, how, and the cells before and after.
struct Step {
    turn: Option<usize>,
    exit: Exit,
    before: Point,
    after: Point,
}

impl Explorer<'_, '_> {
    /// The replies that lead to a goal, as most people would come there, or as it was found first; nothing where they
    /// cannot be made up.
    pub fn witness(&self, goal: &Goal<'_>, plainly: bool) -> Option<Witness> {
        let (part, point, sums) = self.begin_trace(goal, plainly)?;
        let mut steps = self.trace(part, point, sums, plainly)?;
        steps.reverse();
        self.replies(&steps)
    }

    fn begin_trace(&self, goal: &Goal<'_>, plainly: bool) -> Option<Last> {
        match goal {
            Goal::Part(part, sums) => {
                Some((*part, self.any_point(&self.found.parts[*part].set.cells, &[]), sums.clone()))
            }
            Goal::Node(node, wanted) => {
                let part = self.plainest(
                    self.found.nodes[*node].parts.iter().copied().filter(|part| {
                        let cells = &self.found.parts[*part].set.cells;
                        wanted.iter().all(|(field, mask)| cells[*field] & mask != 0)
                    }),
                    plainly,
                )?;
                Some((part, self.any_point(&self.found.parts[part].set.cells, wanted), None))
            }
            Goal::Filing(node, card, want) => self.found.nodes[*node].parts.iter().copied().find_map(|part| {
                let set = &self.found.parts[part].set;
                let groups = self.not_added(set, *card);
                let (sums, chosen) = self.choose(*card, &set.clouds[*card], &groups, &set.cells, want)?;
                let mut point = self.any_point(&set.cells, &[]);
                chosen.iter().for_each(|(field, cell)| point[*field] = Some(*cell));
                Some((part, point, Some((*card, sums))))
            }),
        }
    }

    /// Of several pieces the one that came about as most people would do it: by answering.
    fn plainest(&self, mut parts: impl Iterator<Item = usize>, plainly: bool) -> Option<usize> {
        let rank = |part: &usize| match self.found.parts[*part].exit {
            Exit::Known | Exit::Confirmed | Exit::Tried | Exit::FormTried | Exit::Away(_) => 0,
            Exit::Left | Exit::LeftBefore => 1,
            Exit::Start | Exit::Passed | Exit::Answered | Exit::Form | Exit::Opened | Exit::AllRight | Exit::Filed => 2,
        };
        if plainly { parts.max_by_key(rank) } else { parts.next() }
    }

    fn any_point(&self, cells: &[Mask], wanted: &[(usize, Mask)]) -> Point {
        cells
            .iter()
            .enumerate()
            .map(|(field, mask)| {
                let among = wanted.iter().find(|(of, _)| *of == field).map_or(*mask, |(_, wanted)| mask & wanted);
                (*mask != FORGOTTEN).then(|| among.trailing_zeros() as usize)
            })
            .collect()
    }

    /// Sums before, and cells of the groups' fields, that come to wanted sums.
    fn choose(
        &self,
        card: usize,
        cloud: &Cloud,
        groups: &[usize],
        cells: &[Mask],
        want: &dyn Fn(&Sums) -> bool,
    ) -> Option<(Sums, Vec<(usize, usize)>)> {
        let model = self.model;
        let mut layer: BTreeMap<Sums, (Sums, Vec<(usize, usize)>)> =
            cloud.sums.iter().map(|sums| (sums.clone(), (sums.clone(), Vec::new()))).collect();
        for group in groups {
            let group = &model.cards[card].groups[*group];
            let mut next = BTreeMap::new();
            for at in model.cards[card].combinations(group, cells, model)? {
                let chosen: Vec<(usize, usize)> =
                    group.fields.iter().map(|field| (*field, at[*field].trailing_zeros() as usize)).collect();
                let given = model.cards[card].gives(group, &at, model, &mut Seen::default());
                for (sums, (first, before)) in &layer {
                    for one in &given.sums {
                        next.entry(sums.plus(one)).or_insert_with(|| {
                            (first.clone(), before.iter().chain(&chosen).copied().collect::<Vec<_>>())
                        });
                    }
                }
            }
            layer = next;
        }
        layer.into_iter().find(|(sums, _)| want(sums)).map(|(_, found)| found)
    }

    /// Goes back from a piece to the start.
    fn trace(&self, part: usize, point: Point, sums: Option<(usize, Sums)>, plainly: bool) -> Option<Vec<Step>> {
        let (mut part, mut point, mut sums) = (part, point, sums);
        let mut steps = Vec::new();
        loop {
            let piece = &self.found.parts[part];
            // What was forgotten or put together when the piece came to its turn.
            let mut after: Point = piece
                .after
                .iter()
                .enumerate()
                .map(|(field, mask)| {
                    if *mask == FORGOTTEN {
                        return None;
                    }
                    let same = point[field].filter(|cell| mask >> cell & 1 == 1);
                    same.or_else(|| {
                        let class = match point[field] {
                            Some(cell) if cell < FIRST => mask & MISSING,
                            Some(_) => mask & !MISSING,
                            None => *mask,
                        };
                        self.best(piece, field, if class == 0 { *mask } else { class })
                    })
                })
                .collect();
            if let Some((card, wanted)) = &sums {
                let groups: Vec<usize> = piece
                    .adds
                    .iter()
                    .map(|number| self.group(*number))
                    .filter(|(of, _)| of == card)
                    .map(|(_, group)| group)
                    .collect();
                let (before, chosen) =
                    self.choose(*card, &piece.sums[*card], &groups, &piece.after, &|sums| sums == wanted)?;
                chosen.iter().for_each(|(field, cell)| after[*field] = Some(*cell));
                sums = Some((*card, before));
            }
            let before: Point = piece
                .before
                .iter()
                .enumerate()
                .map(|(field, mask)| {
                    if *mask == FORGOTTEN {
                        return None;
                    }
                    after[field]
                        .filter(|cell| mask >> cell & 1 == 1)
                        .or_else(|| Some((mask.trailing_zeros() as usize).min(63)))
                })
                .collect();
            let turn = piece.from.map(|node| self.found.nodes[node].turn);
            steps.push(Step { turn, exit: piece.exit.clone(), before: before.clone(), after });
            if steps.len() > 4 * MOST_REPLIES {
                return None;
            }
            let Some(node) = piece.from else { return Some(steps) };
            let holds = |known: &usize| {
                let set = &self.found.parts[*known].set;
                let cells = set.cells.iter().zip(&before);
                let within = cells.clone().all(|(mask, cell)| cell.is_none_or(|cell| mask >> cell & 1 == 1));
                within && sums.as_ref().is_none_or(|(card, sums)| set.clouds[*card].sums.contains(sums))
            };
            let earlier = self.found.nodes[node].parts.iter().copied().filter(|known| *known < part);
            part = self.plainest(earlier.filter(holds), plainly)?;
            point = before;
        }
    }

    /// A cell to stand for several: as it was before, else one that a reply is known for.
    fn best(&self, piece: &super::explore::Part, field: usize, among: Mask) -> Option<usize> {
        let kept = among & piece.before[field];
        let first = |mask: Mask| (mask != 0).then(|| mask.trailing_zeros() as usize);
        if kept != 0 && piece.before[field] != FORGOTTEN {
            return first(kept & NOT_ASKED).or_else(|| first(kept));
        }
        let turn = piece.from.map(|node| self.found.nodes[node].turn);
        let said = each(among & !MISSING).find(|cell| self.typed(turn, field, *cell).is_some());
        said.or_else(|| first(among))
    }

    fn taken(&self, turn: Option<usize>, field: usize) -> Option<&Taken> {
        turn.and_then(|turn| self.model.takes_of[turn].iter().find(|(of, _)| *of == field).map(|(_, taken)| taken))
            .or_else(|| self.model.by_itself.get(field).and_then(Option::as_ref))
    }

    fn typed(&self, turn: Option<usize>, field: usize, cell: usize) -> Option<String> {
        self.taken(turn, field)?.typed.get(cell.checked_sub(FIRST)?)?.clone()
    }

    fn replies(&self, steps: &[Step]) -> Option<Witness> {
        let mut witness = Witness::default();
        for step in steps {
            match step.turn {
                None => self.known_at_first(step, &mut witness),
                Some(turn) => self.reply(turn, step, &mut witness.replies)?,
            }
            if witness.replies.len() > MOST_REPLIES {
                return None;
            }
        }
        Some(witness)
    }

    fn known_at_first(&self, step: &Step, witness: &mut Witness) {
        let fields = &self.model.plan.file.fields;
        for (field, cell) in step.after.iter().enumerate() {
            let Some(cell) = cell.filter(|cell| *cell >= FIRST) else { continue };
            match fields.get(field) {
                Some(definition) => {
                    if let Some(text) = self.typed(None, field, cell) {
                        witness.known.insert(definition.key.clone(), text);
                    }
                }
                None => {
                    let name = &self.model.circumstances[field - fields.len()];
                    if let Some(value) = self.model.cells[field].value(cell) {
                        witness.around.insert(name.clone(), value.to_string());
                    }
                }
            }
        }
    }

    fn reply(&self, turn: usize, step: &Step, out: &mut Vec<String>) -> Option<()> {
        let plan = self.model.plan;
        let node = &plan.turns[turn];
        let said = |field: usize| {
            step.after[field].filter(|cell| *cell >= FIRST).and_then(|cell| self.typed(Some(turn), field, cell))
        };
        // What is told besides without an answer comes first, and costs no try.
        if matches!(step.exit, Exit::Left | Exit::Tried | Exit::Away(_)) {
            let besides = self.volunteered(step, None);
            if !besides.is_empty() {
                out.push(format!("zq, {}", besides.join(", ")));
            }
        }
        match (&step.exit, &node.kind) {
            (Exit::Answered, Kind::Ask(ask)) => {
                let cell = step.after[ask.field].or_else(|| each(self.taken(Some(turn), ask.field)?.mask).next())?;
                let mut reply = self.typed(Some(turn), ask.field, cell).or_else(|| self.tapped(ask.field, cell))?;
                for besides in self.volunteered(step, Some(ask.field)) {
                    reply = format!("{reply}, {besides}");
                }
                out.push(reply);
            }
            (Exit::Confirmed, _) => out.push(plan.phrases.get("yes").to_owned()),
            (Exit::Left, Kind::Ask(ask)) => {
                out.push(if ask.skip.is_some() { ">skip".to_owned() } else { declining(&plan.language)? });
            }
            (Exit::Tried, Kind::Ask(ask)) => {
                let reply = failing(ask, plan)?;
                out.extend((0..ask.tries).map(|_| reply.clone()));
            }
            (Exit::Away(talk), _) => out.push(plan.side_talk.get(*talk)?.phrases.first()?.clone()),
            (Exit::Form, Kind::AskTogether(form)) => {
                let values: BTreeMap<&str, String> = form
                    .fields
                    .iter()
                    .filter_map(|wanted| Some((plan.file.fields[wanted.field].key.as_str(), said(wanted.field)?)))
                    .collect();
                out.push(format!(">form {}", serde_json::to_string(&values).ok()?));
            }
            (Exit::Opened, Kind::OpenAsk(open)) => {
                let others: Vec<String> = self.told_besides(step, &open.fields);
                out.push(std::iter::once("…".to_owned()).chain(others).collect::<Vec<_>>().join(", "));
                let lacking = open.fields.iter().filter(|field| step.before[**field].is_some_and(|cell| cell < FIRST));
                if open.together && lacking.clone().count() > 1 {
                    let values: BTreeMap<&str, String> = lacking
                        .filter_map(|field| Some((plan.file.fields[*field].key.as_str(), said(*field)?)))
                        .collect();
                    out.push(format!(">form {}", serde_json::to_string(&values).ok()?));
                } else {
                    for field in lacking {
                        out.push(match step.after[*field] {
                            Some(cell) if cell >= FIRST => self.typed(Some(turn), *field, cell)?,
                            _ => declining(&plan.language)?,
                        });
                    }
                }
            }
            (Exit::AllRight, Kind::ReadBack(back)) => {
                for field in &back.fields {
                    if step.before[*field] != step.after[*field] {
                        out.push(format!(">tap {}", plan.file.fields[*field].key));
                        out.push(said(*field)?);
                    }
                }
                out.push(">tap all_right".to_owned());
            }
            (Exit::FormTried, _) => return None,
            _ => {}
        }
        Some(())
    }

    fn tapped(&self, field: usize, cell: usize) -> Option<String> {
        match self.model.cells[field].value(cell)? {
            lumbo_value::Value::Choice { key } => Some(format!(">tap {key}")),
            _ => None,
        }
    }

    /// What is said besides the answer.
    fn volunteered(&self, step: &Step, but: Option<usize>) -> Vec<String> {
        self.told_besides(step, but.as_slice())
    }

    fn told_besides(&self, step: &Step, but: &[usize]) -> Vec<String> {
        self.model
            .volunteered
            .iter()
            .filter(|field| !but.contains(field))
            .filter(|field| {
                step.before[**field].is_some_and(|cell| cell < FIRST)
                    && step.after[**field].is_some_and(|cell| cell >= FIRST)
            })
            .filter_map(|field| {
                let typed = self.typed(None, *field, step.after[*field]?)?;
                let definition = &self.model.plan.file.fields[*field];
                // A bare number is told by the noun beside it, a town by what leads to it.
                Some(match definition.kind {
                    FieldType::WholeNumber if definition.unit.is_none() => {
                        format!("{typed} {}", definition.label.to_lowercase())
                    }
                    FieldType::Place => format!("in {typed}"),
                    _ => typed,
                })
            })
            .collect()
    }

    /// Holds a witness with the engine: what came of it.
    pub fn hold(&self, witness: &Witness, now: jiff::Timestamp) -> Option<(Vec<Event>, State)> {
        let context: Context = serde_json::from_value(serde_json::to_value(&witness.around).ok()?).ok()?;
        let known: Vec<Prefill> = witness
            .known
            .iter()
            .map(|(key, text)| Prefill { to: PrefillTo::Key(key.clone()), text: text.clone() })
            .collect();
        let domains = DomainLists::default();
        let env = Env { now, seed: 0, context: &context, known: &known, domains: &domains };
        let lines: Vec<Line> = witness
            .replies
            .iter()
            .enumerate()
            .map(|(place, text)| line(text, place + 1))
            .collect::<Result<_, _>>()
            .ok()?;
        run_from(self.model.plan, &Beginning::default(), &lines, env).ok()
    }
}

/// A reply that an ask cannot read.
fn failing(ask: &AskNode, plan: &lumbo_dialogue::Plan) -> Option<String> {
    let domains = DomainLists::default();
    let context = lumbo_reading::ReadContext {
        country: Some(&plan.file.settings.country),
        today: None,
        earlier: None,
        known: None,
        domains: Some(&domains),
    };
    let tried: BTreeSet<&str> = BTreeSet::from(["qwxz", "", "zq"]);
    tried
        .into_iter()
        .rev()
        .find(|text| matches!(ask.reader.read(text, context, 0), Reading::Failed { .. }))
        .map(str::to_owned)
}
