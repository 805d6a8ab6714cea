//! What conversations said, as it crosses.

use std::collections::BTreeMap;

use jiff::Timestamp;
use lumbo_dialogue::file::{Dialogue, Field, FieldType};
use lumbo_dialogue::talk::MarginLine;
use lumbo_dialogue::turns::words::text_words;
use lumbo_records::{answers, left_open};
use lumbo_store::{Came, HowEnded};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use uuid::Uuid;

use super::leads::CameFrom;
/// How a conversation ended, in a word.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub(crate) enum How {
    /// It has not: they may still go on.
    Open,
    /// They left, or went silent, before an end.
    Left,
    /// With an outcome.
    Ended,
}

/// A column of the table: a field.
#[derive(Debug, Clone, Serialize, JsonSchema)]
pub(crate) struct AnswersColumn {
    /// The field by id.
    pub(crate) id: String,
    /// Its key.
    key: String,
    /// Its label.
    pub(crate) label: String,
    /// Its type.
    #[serde(rename = "type")]
    pub(crate) kind: FieldType,
}

impl AnswersColumn {
    pub(crate) fn of(field: &Field) -> Self {
        Self { id: field.id.clone(), key: field.key.clone(), label: field.label.clone(), kind: field.kind }
    }
}

/// A conversation, as a row of the table.
#[derive(Debug, Clone, Serialize, JsonSchema)]
pub(crate) struct AnswersRow {
    /// Its id.
    id: Uuid,
    /// When it began, RFC 3339.
    #[schemars(with = "String")]
    started_at: Timestamp,
    /// When something last happened, RFC 3339.
    #[schemars(with = "String")]
    last_at: Timestamp,
    /// How it ended.
    how: How,
    /// The same in words: the outcome's name, or where it stands.
    pub(crate) ended: String,
    /// Number of its release.
    release: i32,
    /// The lead it became.
    lead: Option<Uuid>,
    /// Points of its filing; so far, where it has not been filed.
    total: Option<i64>,
    /// The band of its filing.
    band: Option<String>,
    /// Place of the band from the lowest, 0; -1 where ruled out.
    band_rank: Option<i32>,
    /// The threshold that the band begins at.
    band_from: Option<i64>,
    /// True where it was filed unfinished.
    unfinished: bool,
    /// Name of the placement it was started in.
    placement: Option<String>,
    /// True where its person was erased.
    erased: bool,
    /// True where one of the workspace's own people tried it: nothing of it was filed.
    test: bool,
    /// Answers in plain words, by the field's id.
    values: BTreeMap<String, String>,
    /// Why fields that were asked for are open, by the field's id.
    open: BTreeMap<String, String>,
}

impl AnswersRow {
    /// A row with the names that the draft has now, or that its release had.
    pub(crate) fn of(row: &lumbo_store::AnswersRow, draft: &Dialogue) -> Self {
        let (how, ended) = match &row.ended {
            HowEnded::Open => (How::Open, standing(row)),
            HowEnded::Left => (How::Left, "left".to_owned()),
            HowEnded::With(outcome) => {
                let named = |dialogue: &Dialogue| {
                    let mut outcomes = dialogue.outcomes.iter();
                    outcomes.find(|known| known.id == *outcome).map(|known| known.label.clone())
                };
                let label = named(draft).or_else(|| named(&row.plan.file));
                (How::Ended, label.unwrap_or_else(|| "ended".to_owned()))
            }
        };
        Self {
            id: row.id,
            started_at: row.started_at,
            last_at: row.last_at,
            how,
            ended,
            release: row.release,
            lead: row.lead,
            total: row.total,
            band: row.band.clone(),
            band_rank: row.band_rank,
            band_from: row.band_from,
            unfinished: row.unfinished,
            placement: row.placement.clone(),
            erased: row.erased,
            test: row.test,
            values: answers(&row.plan, &row.state).map(|(id, text, _)| (id.to_owned(), text)).collect(),
            open: left_open(&row.plan, &row.state).map(|(id, why)| (id.to_owned(), why.to_owned())).collect(),
        }
    }
}

/// Where a conversation stands that has not ended: the open question.
fn standing(row: &lumbo_store::AnswersRow) -> String {
    let Some(asking) = &row.state.asking else { return "still open".to_owned() };
    let mut words = None;
    row.plan.file.each_turn(&mut |_, _, turn| {
        if turn.id() == asking.turn {
            words = turn.said().first().map(|text| text_words(&row.plan.file, text));
        }
    });
    words.map_or_else(|| "still open".to_owned(), |words| format!("open at “{words}”"))
}

/// A page of the table.
#[derive(Debug, Clone, Serialize, JsonSchema)]
pub(crate) struct AnswersPage {
    /// Its columns: fields of the draft, then others that some row holds.
    pub(crate) columns: Vec<AnswersColumn>,
    /// Its rows, the newest first; 100 at most.
    pub(crate) rows: Vec<AnswersRow>,
    /// What the next page begins after; absent at the end.
    pub(crate) next: Option<String>,
    /// How many conversations were looked through for it.
    pub(crate) looked: usize,
    /// How many there are by release, time, end and lead; condition and words aside.
    pub(crate) all: i64,
    /// Of these, ended with an outcome.
    pub(crate) ended: i64,
    /// Of these, left before an end.
    pub(crate) left: i64,
    /// Of these, became leads.
    pub(crate) leads: i64,
}

/// One conversation with its reasons.
#[derive(Debug, Clone, Serialize, JsonSchema)]
pub(crate) struct ConversationView {
    /// As in the table.
    row: AnswersRow,
    /// Its lines with notes.
    lines: Vec<MarginLine>,
    /// Fields that the row names.
    fields: Vec<AnswersColumn>,
    /// Points so far by the default scorecard.
    points: i64,
    /// Where it came from.
    came: CameFrom,
}

impl ConversationView {
    pub(crate) fn of(row: &lumbo_store::AnswersRow, draft: &Dialogue, lines: Vec<MarginLine>) -> Self {
        let came = Came { placement: row.placement.clone(), context: row.state.context.clone() };
        Self {
            row: AnswersRow::of(row, draft),
            lines,
            fields: row.plan.file.fields.iter().map(AnswersColumn::of).collect(),
            points: row.state.points,
            came: came.into(),
        }
    }
}
