//! An outline written as plain text, read into turns. docs/outline-text.md shows the forms.
//!
//! Indentation nests: what stands deeper below a question is its options, and what stands deeper below an option are
//! the turns of its arm. A line that is no other form is said, or asked where it ends with a question mark.

mod line;

use std::collections::HashMap;

use line::{Line, Question, read};

use super::gesture::fields::{fresh_key, named};
use super::gesture::{GestureError, Work};
use lumbo_condition as condition;
use lumbo_dialogue::file::{Arm, Choice, Field, FieldType, Id, OutcomeClass, Rule, Section, Text, Then, Turn, When};
use lumbo_dialogue::file::{Follow, Part, Wording};
use lumbo_dialogue::turns::{Ask, Close, FileLead, Fill, Fork, Tell, Visit, WorkOut};
use lumbo_language::{Language, fold};

/// Longest text, in bytes.
pub const LENGTH_LIMIT: usize = 200_000;
/// Most lines.
pub const LINE_LIMIT: usize = 2_000;

/// A line with the lines that stand deeper below it.
struct Node {
    number: usize,
    line: Line,
    below: Vec<Node>,
}

/// What was read: turns before the first title, then sections.
pub(super) struct Written {
    /// Turns before the first title.
    pub(super) turns: Vec<Turn>,
    /// Where the first turns lead on, where the text says so.
    pub(super) sections: Vec<Section>,
    /// Fields to add.
    pub(super) fields: Vec<Field>,
}

fn too_long(says: impl Into<String>) -> GestureError {
    GestureError::Says(says.into())
}

/// Nests lines by their indentation; a bullet that stands as deep as the question above it belongs to the question.
fn nest(text: &str) -> Result<Vec<Node>, GestureError> {
    if text.len() > LENGTH_LIMIT {
        return Err(too_long(format!("A written outline has at most {LENGTH_LIMIT} bytes.")));
    }
    let mut flat = Vec::new();
    for (index, raw) in text.lines().enumerate() {
        let trimmed = raw.trim_start();
        if trimmed.is_empty() {
            continue;
        }
        let indent: usize = raw[..raw.len() - trimmed.len()].chars().map(|c| if c == '\t' { 4 } else { 1 }).sum();
        let line = read(trimmed);
        // A title is never inside anything; a bullet is inside what it follows.
        let depth = match &line {
            Line::Section { .. } => 0,
            Line::Words { bullet: true, .. } => 2 * indent + 2,
            _ => 2 * indent + 1,
        };
        flat.push((depth, index + 1, line));
    }
    if flat.len() > LINE_LIMIT {
        return Err(too_long(format!(
            "A written outline has at most {LINE_LIMIT} lines; this one has {}.",
            flat.len()
        )));
    }
    let mut flat = flat.into_iter().peekable();
    Ok(children(&mut flat, None))
}

fn children(
    flat: &mut std::iter::Peekable<impl Iterator<Item = (usize, usize, Line)>>,
    above: Option<usize>,
) -> Vec<Node> {
    let mut out = Vec::new();
    while let Some((depth, _, _)) = flat.peek() {
        let depth = *depth;
        if above.is_some_and(|above| depth <= above) {
            break;
        }
        let Some((_, number, line)) = flat.next() else { break };
        let below = if matches!(line, Line::Section { .. }) { Vec::new() } else { children(flat, Some(depth)) };
        out.push(Node { number, line, below });
    }
    out
}

/// Reads a written outline for a dialogue. Sections that are named and are in neither the text nor the dialogue are
/// made.
pub(super) fn written(work: &mut Work, text: &str, catalogue: &[Field]) -> Result<Written, GestureError> {
    let nodes = nest(text)?;
    if nodes.is_empty() {
        return Err(too_long("There is no line to read."));
    }
    let mut reader = Reader {
        sections: HashMap::new(),
        new_sections: Vec::new(),
        fields: work.dialogue.fields.clone(),
        made: Vec::new(),
        catalogue,
        work,
    };
    for section in &reader.work.dialogue.sections {
        reader.sections.insert(fold(&section.title), section.id.clone());
    }
    // Titles first, so that a line may lead to a section further down.
    let mut ids = Vec::new();
    for node in &nodes {
        if let Line::Section { title, .. } = &node.line {
            let id = reader.work.ids.fresh("s");
            reader.sections.insert(fold(title), id.clone());
            ids.push(id);
        }
    }
    let mut out = Written { turns: Vec::new(), sections: Vec::new(), fields: Vec::new() };
    let mut ids = ids.into_iter();
    let mut run: Vec<Node> = Vec::new();
    let mut title: Option<(Id, String, Option<String>)> = None;
    for node in nodes.into_iter().map(Some).chain([None]) {
        let begins = match &node {
            Some(Node { line: Line::Section { title, to }, .. }) => Some(Some((title.clone(), to.clone()))),
            None => Some(None),
            Some(_) => None,
        };
        match begins {
            None => run.extend(node),
            Some(next) => {
                let (turns, leads) = reader.run(std::mem::take(&mut run))?;
                match title.take() {
                    None => {
                        out.turns = turns;
                        if let Some(target) = leads {
                            // Above the first title there is no section to lead on; a fork that always leads there
                            // does.
                            let arm = reader.arm(When::Otherwise, Vec::new(), Then::GoTo(target));
                            out.turns.push(Turn::Fork(Fork { id: reader.work.ids.fresh("t"), arms: vec![arm] }));
                        }
                    }
                    Some((id, title, to)) => {
                        let target = match to {
                            Some(to) => Some(reader.section(&to)),
                            None => leads,
                        };
                        out.sections.push(Section {
                            id,
                            title,
                            turns,
                            then: target.map_or(Follow::CarryOn, Follow::GoTo),
                        });
                    }
                }
                if let Some((name, to)) = next {
                    title = Some((ids.next().unwrap_or_default(), name, to));
                }
            }
        }
    }
    out.sections.append(&mut reader.new_sections);
    out.fields = std::mem::take(&mut reader.made);
    Ok(out)
}

struct Reader<'a> {
    work: &'a mut Work,
    catalogue: &'a [Field],
    sections: HashMap<String, Id>,
    new_sections: Vec<Section>,
    fields: Vec<Field>,
    made: Vec<Field>,
}

impl Reader<'_> {
    fn text(&self, words: &str) -> Text {
        Text::new(&self.work.dialogue.language, words)
    }

    fn wording(&self, words: &str) -> Wording {
        Wording { text: self.text(words), or: Vec::new() }
    }

    fn arm(&mut self, when: When, turns: Vec<Turn>, then: Then) -> Arm {
        Arm { id: self.work.ids.fresh("a"), label: None, when, turns, then, tags: Vec::new() }
    }

    /// A section by its title; made at the end where there is none.
    fn section(&mut self, title: &str) -> Id {
        if let Some(id) = self.sections.get(&fold(title)) {
            return id.clone();
        }
        let id = self.work.ids.fresh("s");
        self.sections.insert(fold(title), id.clone());
        self.work.notes.push(format!("There was no section “{title}”; an empty one was made."));
        self.new_sections.push(Section {
            id: id.clone(),
            title: title.to_owned(),
            turns: Vec::new(),
            then: Follow::CarryOn,
        });
        id
    }

    fn outcome(&self, name: Option<&str>) -> Id {
        let outcomes = &self.work.dialogue.outcomes;
        let by_name = name
            .and_then(|name| outcomes.iter().find(|outcome| fold(&outcome.label) == fold(name) || outcome.id == name));
        let looking = || outcomes.iter().find(|outcome| outcome.class == OutcomeClass::Looking);
        by_name.or_else(looking).or(outcomes.first()).map(|outcome| outcome.id.clone()).unwrap_or_default()
    }

    /// Turns that follow one another, and where they lead when a line says so.
    fn run(&mut self, nodes: Vec<Node>) -> Result<(Vec<Turn>, Option<Id>), GestureError> {
        let mut turns: Vec<Turn> = Vec::new();
        let mut leads = None;
        for node in nodes {
            let at = |says: String| GestureError::Says(format!("Line {}: {says}", node.number));
            // A fork takes the ifs that follow one another; the first line of any other kind ends it.
            match node.line {
                Line::If { condition, to } => {
                    let holds =
                        condition::typed(condition.trim_end_matches(':'), &self.fields, &self.work.dialogue.language)
                            .map_err(|error| at(format!("“{condition}” is no condition: {}", error.says)))?;
                    let arm = self.arm_of(When::Holds(holds), node.below, to)?;
                    match turns.last_mut() {
                        Some(Turn::Fork(fork)) if fork.arms.last().is_some_and(|arm| arm.when != When::Otherwise) => {
                            fork.arms.push(arm);
                        }
                        _ => turns.push(Turn::Fork(Fork { id: self.work.ids.fresh("t"), arms: vec![arm] })),
                    }
                }
                Line::Otherwise { to } => {
                    let arm = self.arm_of(When::Otherwise, node.below, to)?;
                    match turns.last_mut() {
                        Some(Turn::Fork(fork)) => fork.arms.push(arm),
                        Some(Turn::Ask(ask)) if !ask.arms.is_empty() => ask.arms.push(arm),
                        _ => return Err(at("“otherwise” stands below an “if”".into())),
                    }
                }
                Line::GoTo(title) => leads = Some(self.section(&title)),
                Line::Visit(title) => {
                    let section = self.section(&title);
                    turns.push(Turn::Visit(Visit { id: self.work.ids.fresh("t"), section }));
                }
                Line::FileLead => turns.push(Turn::FileLead(FileLead {
                    id: self.work.ids.fresh("t"),
                    scorecard: None,
                    early: false,
                    arms: Vec::new(),
                })),
                Line::Close { outcome, say } => {
                    let say = (!say.is_empty()).then(|| self.wording(&say));
                    let outcome = self.outcome(outcome.as_deref());
                    turns.push(Turn::Close(Close { id: self.work.ids.fresh("t"), outcome, say, link: None }));
                }
                Line::WorkOut { field, formula, starts } => {
                    // A counter is of the type that it starts with; its formula reads itself.
                    let typed = starts.as_ref().unwrap_or(&formula);
                    let field = self.worked_out(&field, typed).map_err(at)?;
                    let fill = Fill { field, formula, starts };
                    match turns.last_mut() {
                        Some(Turn::WorkOut(work)) => work.fills.push(fill),
                        _ => turns.push(Turn::WorkOut(WorkOut { id: self.work.ids.fresh("t"), fills: vec![fill] })),
                    }
                }
                Line::Ask(question) => {
                    let ask = self.ask(question, node.below)?;
                    turns.push(ask);
                }
                Line::Words { text, to, bullet } => {
                    if node.below.is_empty() || bullet {
                        let said = self.wording(&text);
                        turns.push(Turn::Tell(Tell { id: self.work.ids.fresh("t"), say: vec![Part::Line(said)] }));
                        let (below, further) = self.run(node.below)?;
                        turns.extend(below);
                        leads = further.or(leads);
                        if let Some(to) = to {
                            leads = Some(self.section(&to));
                        }
                    } else {
                        let ask = self.ask(Question { say: text, ..Question::default() }, node.below)?;
                        turns.push(ask);
                    }
                }
                Line::Section { .. } => {}
            }
        }
        Ok((turns, leads))
    }

    fn arm_of(&mut self, when: When, below: Vec<Node>, to: Option<String>) -> Result<Arm, GestureError> {
        let (turns, leads) = self.run(below)?;
        let target = to.map(|to| self.section(&to)).or(leads);
        Ok(self.arm(when, turns, target.map_or(Then::Rejoin, Then::GoTo)))
    }

    fn ask(&mut self, question: Question, below: Vec<Node>) -> Result<Turn, GestureError> {
        // Options are the words that stand below; another form there is a mistake worth a sentence.
        let mut options: Vec<(String, Option<String>, Vec<Node>)> =
            question.options.iter().map(|label| (label.clone(), None, Vec::new())).collect();
        let mut otherwise = None;
        for node in below {
            let mut put = |label: String, to: Option<String>, below: Vec<Node>| match options
                .iter_mut()
                .find(|(known, ..)| fold(known) == fold(&label))
            {
                // An option that stands after the question and below it as well is one option.
                Some(known) if known.1.is_none() && known.2.is_empty() => *known = (label, to, below),
                _ => options.push((label, to, below)),
            };
            match node.line {
                Line::Words { text, to, .. } => put(text, to, node.below),
                Line::Ask(inner) => put(inner.say, None, node.below),
                Line::Otherwise { to } => otherwise = Some((to, node.below)),
                _ => {
                    return Err(GestureError::Says(format!(
                        "Line {}: below a question stand its options.",
                        node.number
                    )));
                }
            }
        }
        let field = self.field(&question, &options);
        let definition = self.fields.iter().find(|known| known.key == field).cloned();
        let yes_no = definition.as_ref().is_some_and(|field| field.kind.is_yes_or_no());
        let mut arms = Vec::new();
        for (label, to, below) in options {
            let key = if yes_no {
                if Language::get(&self.work.dialogue.language).no.contains(&fold(&label)) {
                    "no".to_owned()
                } else {
                    "yes".to_owned()
                }
            } else {
                self.option(&field, &label)
            };
            arms.push(self.arm_of(When::Options(vec![key]), below, to)?);
        }
        if let Some((to, below)) = otherwise {
            arms.push(self.arm_of(When::Otherwise, below, to)?);
        }
        let has_rule = definition.is_some_and(|field| field.rules.contains(&Rule::Required {}));
        let mut ask = Ask::plain(self.work.ids.fresh("t"), self.text(&question.say), field);
        if question.required && !has_rule {
            ask.rules.push(Rule::Required {});
        }
        ask.arms = arms;
        Ok(Turn::Ask(ask))
    }

    /// The key of an option by its label; added to the field where it is new.
    fn option(&mut self, field: &str, label: &str) -> String {
        let language = self.work.dialogue.language.clone();
        let Some(known) = self.fields.iter_mut().find(|known| known.key == field) else { return label.to_owned() };
        if let Some(option) = known
            .options
            .iter()
            .find(|option| fold(option.label.get(&language, &language)) == fold(label) || option.key == label)
        {
            return option.key.clone();
        }
        let taken: Vec<String> = known.options.iter().map(|option| option.key.clone()).collect();
        let key = fresh_key(label, &taken, "option");
        known.options.push(Choice {
            key: key.clone(),
            label: Text::new(&language, label),
            also: Vec::new(),
            hint: None,
            picture: None,
        });
        let known = known.clone();
        self.put(known);
        key
    }

    fn put(&mut self, field: Field) {
        match self.made.iter_mut().find(|known| known.id == field.id) {
            Some(known) => *known = field.clone(),
            None => self.made.push(field.clone()),
        }
        match self.fields.iter_mut().find(|known| known.id == field.id) {
            Some(known) => *known = field,
            None => self.fields.push(field),
        }
    }

    /// The field of a question: one of this name in the dialogue, else in the catalogue, else a new one.
    fn field(&mut self, question: &Question, options: &[(String, Option<String>, Vec<Node>)]) -> String {
        let label = question.field.clone().unwrap_or_else(|| guess_label(&question.say));
        if question.field.is_some() || options.is_empty() {
            if let Some(known) = named(&self.fields, &label) {
                return known.key.clone();
            }
            // A question that plainly asks for an address, a number or a name means the field there is for it.
            let plainly = question.field.is_none().then(|| guess_type(&question.say, &label)).filter(|kind| {
                matches!(kind, FieldType::Email | FieldType::Phone | FieldType::PersonName | FieldType::Company)
            });
            let of_kind =
                |list: &[Field]| plainly.and_then(|kind| list.iter().find(|field| field.kind == kind).cloned());
            if let Some(known) = of_kind(&self.fields) {
                return known.key;
            }
            if let Some(known) = named(self.catalogue, &label).cloned().or_else(|| of_kind(self.catalogue)) {
                let key = known.key.clone();
                self.put(known);
                return key;
            }
        }
        let language = Language::get(&self.work.dialogue.language);
        let says_yes_no = options.len() == 2 && {
            let of = |list: &lumbo_language::HashSet<String>| {
                options.iter().any(|(label, _, _)| list.contains(&fold(label)))
            };
            of(&language.yes) && of(&language.no)
        };
        let kind = question.kind.unwrap_or_else(|| match options.len() {
            _ if says_yes_no => FieldType::YesNo,
            0 => guess_type(&question.say, &label),
            _ => FieldType::Choice,
        });
        let taken: Vec<String> = self.fields.iter().chain(self.catalogue).map(|field| field.key.clone()).collect();
        let key = fresh_key(&label, &taken, "field");
        let field = Field::plain(self.work.ids.fresh("fld"), key.clone(), label.chars().take(60).collect(), kind);
        self.put(field);
        key
    }

    /// The field that a formula fills; made with the type the formula gives where it is new.
    fn worked_out(&mut self, key: &str, formula: &str) -> Result<String, String> {
        if self.fields.iter().any(|field| field.key == key) {
            return Ok(key.to_owned());
        }
        if let Some(known) = self.catalogue.iter().find(|field| field.key == key).cloned() {
            self.put(known);
            return Ok(key.to_owned());
        }
        use lumbo_formula::{Names, Type, compile, with_keys};
        let names = Names { fields: &self.fields, tables: &self.work.dialogue.tables };
        let compiled = compile(&with_keys(formula, names), names).map_err(|error| error.to_string())?;
        let kind = match compiled.gives() {
            Type::Money => FieldType::Money,
            Type::Date => FieldType::Date,
            Type::YesNo => FieldType::YesNo,
            Type::Number => FieldType::WholeNumber,
            _ => FieldType::Text,
        };
        let label = key.replace('_', " ");
        let mut letters = label.chars();
        let label = letters.next().map(|first| first.to_uppercase().chain(letters).collect()).unwrap_or_default();
        let field = Field::plain(self.work.ids.fresh("fld"), key.to_owned(), label, kind);
        self.put(field);
        Ok(key.to_owned())
    }
}

/// A field's name from its question: the thing after "how many", else the question's first words.
fn guess_label(say: &str) -> String {
    let plain: String =
        say.chars().map(|c| if c.is_alphanumeric() || c == '-' || c == '’' || c == '\'' { c } else { ' ' }).collect();
    let words: Vec<&str> = plain.split_whitespace().collect();
    let lower: Vec<String> = words.iter().map(|word| word.to_lowercase()).collect();
    let has = |word: &str| lower.iter().any(|known| known == word);
    let capital = |word: &str| {
        word.chars()
            .next()
            .map(|first| first.to_uppercase().chain(word.chars().skip(1)).collect::<String>())
            .unwrap_or_default()
    };
    if has("e-mail") || has("email") {
        return "E-mail".into();
    }
    if has("phone") || has("call") && has("number") {
        return "Phone".into();
    }
    if has("name") && has("your") {
        return "Name".into();
    }
    if let Some(after) = lower.windows(2).position(|pair| pair == ["how", "many"]).and_then(|at| words.get(at + 2)) {
        return capital(after);
    }
    let skip = [
        "what", "which", "where", "when", "how", "who", "is", "are", "do", "does", "you", "your", "the", "a", "an",
        "of", "to", "it", "roughly", "need", "have", "and", "so",
    ];
    let telling: Vec<&str> = words
        .iter()
        .zip(&lower)
        .filter(|(_, lower)| !skip.contains(&lower.as_str()))
        .map(|(word, _)| *word)
        .take(3)
        .collect();
    let label =
        if telling.is_empty() { words.into_iter().take(4).collect::<Vec<_>>().join(" ") } else { telling.join(" ") };
    if label.is_empty() { "Answer".to_owned() } else { capital(&label) }
}

/// A field's type from its question, where nothing says it.
fn guess_type(say: &str, label: &str) -> FieldType {
    let say = say.to_lowercase();
    let starts = |words: &[&str]| words.iter().any(|word| say.starts_with(word));
    match label {
        "E-mail" => FieldType::Email,
        "Phone" => FieldType::Phone,
        "Name" => FieldType::PersonName,
        _ if say.contains("company") => FieldType::Company,
        _ if say.contains("how many") => FieldType::WholeNumber,
        _ if starts(&["do ", "does ", "is ", "are ", "have ", "has ", "will ", "would ", "can ", "could "])
            && !say.contains(" or ") =>
        {
            FieldType::YesNo
        }
        _ => FieldType::Text,
    }
}

#[cfg(test)]
mod tests;
