//! The sentences of findings on what can happen.

use lumbo_dialogue::file::Dialogue;

use super::happens::ArmKind;

/// What a finding says, as data.
#[derive(Debug)]
pub(super) enum Says<'a> {
    SectionNever { title: &'a str },
    TurnNever,
    ArmNever { words: &'a str, kind: ArmKind },
    ArmAlways { words: &'a str },
    CriterionNever,
    CriterionAlways,
    MustNever,
    MustAlways,
    OutNever,
    OutAlways,
    RouteNever,
    RouteNone,
    TakesNothing,
    AskedAgain { label: &'a str },
    Endless,
    ContactFirst { label: &'a str },
    ManyQuestions { most: u32 },
    NotFollowed { labels: String },
    ShownMissing { labels: String },
    ComputedMissing { labels: String },
    NeededMissing { needs: Vec<String> },
    BeforeConsent { labels: String },
    WithoutConsent { labels: String },
}

impl Says<'_> {
    /// The check's stable key.
    pub fn key(&self) -> &'static str {
        match self {
            Self::SectionNever { .. } => "unreachable_section",
            Self::TurnNever => "unreachable_turn",
            Self::ArmNever { .. } => "arm_never",
            Self::ArmAlways { .. } => "arm_always",
            Self::CriterionNever => "criterion_never",
            Self::CriterionAlways => "criterion_always",
            Self::MustNever => "must_have_never",
            Self::MustAlways => "must_have_always",
            Self::OutNever => "rule_out_never",
            Self::OutAlways => "rule_out_always",
            Self::RouteNever => "route_never",
            Self::RouteNone => "route_none",
            Self::TakesNothing => "takes_nothing",
            Self::AskedAgain { .. } => "asked_again",
            Self::Endless => "endless",
            Self::ContactFirst { .. } => "contact_first",
            Self::ManyQuestions { .. } => "many_questions",
            Self::NotFollowed { .. } => "not_followed",
            Self::ShownMissing { .. } => "shown_missing",
            Self::ComputedMissing { .. } => "computed_missing",
            Self::NeededMissing { .. } => "needed_missing",
            Self::BeforeConsent { .. } => "before_consent",
            Self::WithoutConsent { .. } => "filed_without_consent",
        }
    }

    /// The sentence.
    pub fn words(&self) -> String {
        match self {
            Self::SectionNever { title } => format!("no conversation comes to “{title}”"),
            Self::TurnNever => "no conversation comes to this turn".to_owned(),
            Self::ArmNever { words, kind } => match kind {
                ArmKind::Option => format!("no answer that this ask accepts takes the arm “{words}”"),
                ArmKind::Condition => format!("no conversation takes this arm: “{words}” never holds here"),
                ArmKind::Otherwise => "no conversation takes this arm: the arms above it take everything".to_owned(),
                ArmKind::WayOut => "no conversation takes this arm: the way out leads elsewhere".to_owned(),
                ArmKind::Lacks => "no lead lacks what it must carry here, so this arm is never taken".to_owned(),
                ArmKind::Band => format!("no lead that is filed here is {words}, so this arm is never taken"),
            },
            Self::ArmAlways { words } => format!("“{words}” always holds here, so this arm is taken every time"),
            Self::CriterionNever => "no lead can ever get the points of this criterion".to_owned(),
            Self::CriterionAlways => {
                "every lead gets the points of this criterion, so it tells none from another".to_owned()
            }
            Self::MustNever => "no lead can ever meet this must-have, so it caps every lead".to_owned(),
            Self::MustAlways => "every lead meets this must-have, so it caps none".to_owned(),
            Self::OutNever => "this rule-out can never hold".to_owned(),
            Self::OutAlways => "this rule-out always holds, so it rules out every lead".to_owned(),
            Self::RouteNever => "no lead can ever be routed by this rule".to_owned(),
            Self::RouteNone => "a lead can be filed for which no rule holds, and no queue is named for that".to_owned(),
            Self::TakesNothing => "this ask accepts no reply at all: its rules contradict each other".to_owned(),
            Self::AskedAgain { label } => format!("this asks for {label} again where it is known already"),
            Self::Endless => {
                "a conversation that comes here goes round for ever; only the limit on entries would end it".to_owned()
            }
            Self::ContactFirst { label } => format!(
                "the first question can be the one for {}; people leave when they are asked who they are before \
                 anything else",
                label.to_lowercase()
            ),
            Self::ManyQuestions { most } => {
                format!("a conversation can ask {most} questions; few people answer that many")
            }
            Self::NotFollowed { labels } => format!(
                "too much can happen here to follow {labels}; what depends on it was taken as possible either way"
            ),
            Self::ShownMissing { labels } => format!("{labels} may be missing where this text shows it"),
            Self::ComputedMissing { labels } => {
                format!("{labels} may be missing here, and then this formula gives nothing")
            }
            Self::NeededMissing { needs } => match needs.as_slice() {
                [only] => format!("a lead may be filed here without {only}, which it must carry"),
                several => {
                    format!("a lead may be filed here without some of what it must carry: {}", several.join(", "))
                }
            },
            Self::BeforeConsent { labels } => format!("this asks for {labels} before asking for consent"),
            Self::WithoutConsent { labels } => {
                format!("a lead may be filed here with neither a yes nor a no to “{labels}”")
            }
        }
    }

    /// How to mend it.
    pub fn mend(&self) -> &'static str {
        match self {
            Self::SectionNever { .. } => "Let an arm or a section go to it, or take it out.",
            Self::TurnNever => "Move it to where conversations come by, or take it out.",
            Self::ArmNever { .. } => "Change what takes it, or take it out.",
            Self::ArmAlways { .. } => "Change the condition, or put the arm’s turns on the trunk.",
            Self::CriterionNever | Self::RouteNever | Self::OutNever => {
                "Change its condition, ask for what it reads, or take it out."
            }
            Self::RouteNone => "Name a queue for what no rule holds for.",
            Self::CriterionAlways | Self::MustAlways => "Change its condition, or take it out.",
            Self::MustNever => "Change its condition, or ask for what it reads.",
            Self::OutAlways => "Change its condition.",
            Self::TakesNothing => "Loosen one of its rules.",
            Self::AskedAgain { .. } => "Let it be skipped or confirmed where it is known.",
            Self::Endless => "Let an arm, a way out or a skip lead to a Close.",
            Self::ContactFirst { .. } => "Begin with one easy question about what they need.",
            Self::ManyQuestions { .. } => "Ask less, or let an arm pass what some need not answer.",
            Self::NotFollowed { .. } => {
                "Decide on fewer of these fields further on, or read findings with that in mind."
            }
            Self::ShownMissing { .. } => "Write a fallback into the text, or ask for it before.",
            Self::ComputedMissing { .. } => "Use COALESCE with a usual value, or ask for it before.",
            Self::NeededMissing { .. } => {
                "Ask for it on every way to here and let its way out lead elsewhere, add an arm for leads that lack \
                 something, or accept that a rep asks for it."
            }
            Self::BeforeConsent { .. } => "Ask for consent first.",
            Self::WithoutConsent { .. } => {
                "Ask for it on every way to here, and let its way out lead elsewhere where nobody answered."
            }
        }
    }
}

/// Labels of fields in a row: "E-mail or Phone".
pub(super) fn labels(dialogue: &Dialogue, keys: &[String]) -> String {
    keys.iter()
        .map(|key| {
            dialogue.fields.iter().find(|field| field.key == *key).map_or(key.as_str(), |field| field.label.as_str())
        })
        .collect::<Vec<_>>()
        .join(" or ")
}
