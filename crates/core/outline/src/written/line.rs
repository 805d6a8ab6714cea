//! One line of a written outline.

use lumbo_dialogue::file::FieldType;

/// What a line asks for.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(super) enum Line {
    /// `# Title`, with where it goes afterwards.
    Section { title: String, to: Option<String> },
    /// `If condition`.
    If { condition: String, to: Option<String> },
    /// `Otherwise`.
    Otherwise { to: Option<String> },
    /// `-> Section`.
    GoTo(String),
    /// `Visit: Section`.
    Visit(String),
    /// `File lead`.
    FileLead,
    /// `Close as Outcome: words`.
    Close { outcome: Option<String>, say: String },
    /// `key = formula`, and `, starting at formula` for a counter.
    WorkOut { field: String, formula: String, starts: Option<String> },
    /// A question, or a line with a field.
    Ask(Question),
    /// Anything else: something said, or an option where a question stands above.
    Words { text: String, to: Option<String>, bullet: bool },
}

/// A question as written.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub(super) struct Question {
    /// The question.
    pub(super) say: String,
    /// The field's name, from `[Name, type]`.
    pub(super) field: Option<String>,
    /// Its type, where one is named.
    pub(super) kind: Option<FieldType>,
    /// `must answer` stands in the brackets.
    pub(super) required: bool,
    /// Options after the question, divided by slashes.
    pub(super) options: Vec<String>,
}

/// Ways to name a type.
const TYPES: [(&str, FieldType); 34] = [
    ("text", FieldType::Text),
    ("long text", FieldType::LongText),
    ("name", FieldType::PersonName),
    ("person name", FieldType::PersonName),
    ("person’s name", FieldType::PersonName),
    ("company", FieldType::Company),
    ("email", FieldType::Email),
    ("e-mail", FieldType::Email),
    ("phone", FieldType::Phone),
    ("website", FieldType::Website),
    ("number", FieldType::WholeNumber),
    ("whole number", FieldType::WholeNumber),
    ("quantity", FieldType::Quantity),
    ("money", FieldType::Money),
    ("date", FieldType::Date),
    ("yes or no", FieldType::YesNo),
    ("yes no", FieldType::YesNo),
    ("choice", FieldType::Choice),
    ("one of several", FieldType::Choice),
    ("choices", FieldType::Choices),
    ("several of several", FieldType::Choices),
    ("scale", FieldType::Scale),
    ("place", FieldType::Place),
    ("address", FieldType::Address),
    ("list", FieldType::List),
    ("country", FieldType::Country),
    ("consent", FieldType::Consent),
    ("person_name", FieldType::PersonName),
    ("long_text", FieldType::LongText),
    ("whole_number", FieldType::WholeNumber),
    ("yes_no", FieldType::YesNo),
    ("several", FieldType::Choices),
    ("e mail", FieldType::Email),
    ("telephone", FieldType::Phone),
];

/// The type that words name.
pub(super) fn type_of(words: &str) -> Option<FieldType> {
    let words = words.trim().to_lowercase();
    TYPES.iter().find(|(name, _)| *name == words).map(|(_, kind)| *kind)
}

/// Cuts `-> Section` off the end.
fn arrow(text: &str) -> (String, Option<String>) {
    let cut = ["->", "→"].iter().filter_map(|sign| text.rfind(sign).map(|at| (at, sign.len()))).max();
    match cut {
        Some((at, length)) => {
            (text[..at].trim().to_owned(), Some(text[at + length..].trim().to_owned()).filter(|to| !to.is_empty()))
        }
        None => (text.trim().to_owned(), None),
    }
}

/// The rest of a line that begins with a word, in any case, when the word stands alone.
fn after<'a>(text: &'a str, word: &str) -> Option<&'a str> {
    let head = text.get(..word.len())?;
    let rest = &text[word.len()..];
    (head.eq_ignore_ascii_case(word) && !rest.starts_with(|c: char| c.is_alphanumeric())).then(|| rest.trim_start())
}

/// Reads one line, without its indentation.
pub(super) fn read(text: &str) -> Line {
    let text = text.trim();
    if let Some(title) = text.strip_prefix('#') {
        let (title, to) = arrow(title.trim_start_matches('#'));
        return Line::Section { title, to };
    }
    for sign in ["->", "→"] {
        if let Some(target) = text.strip_prefix(sign) {
            return Line::GoTo(target.trim().to_owned());
        }
    }
    if let Some(target) = after(text, "go to").and_then(|rest| rest.strip_prefix(':').or(Some(rest))) {
        return Line::GoTo(target.trim().to_owned());
    }
    let bullet = ["- ", "* ", "• ", "– "].iter().find_map(|sign| text.strip_prefix(sign));
    if let Some(option) = bullet {
        let (text, to) = arrow(option);
        return Line::Words { text, to, bullet: true };
    }
    if let Some(rest) = after(text, "if").filter(|rest| !rest.is_empty() && !text.ends_with('?')) {
        let (condition, to) = arrow(rest.trim_end_matches(':'));
        return Line::If { condition, to };
    }
    if let Some(rest) = after(text, "otherwise") {
        let (_, to) = arrow(rest);
        return Line::Otherwise { to };
    }
    if let Some(target) = after(text, "visit").and_then(|rest| rest.strip_prefix(':')) {
        return Line::Visit(target.trim().to_owned());
    }
    if text.trim_end_matches('.').eq_ignore_ascii_case("file lead")
        || text.trim_end_matches('.').eq_ignore_ascii_case("file the lead")
    {
        return Line::FileLead;
    }
    if let Some(rest) = after(text, "close") {
        let (head, say) = rest.split_once(':').unwrap_or((rest, ""));
        let outcome = head.trim();
        let outcome = after(outcome, "as").unwrap_or(outcome).trim();
        return Line::Close {
            outcome: Some(outcome.to_owned()).filter(|outcome| !outcome.is_empty()),
            say: say.trim().to_owned(),
        };
    }
    if let Some((field, formula)) = text.split_once(" = ")
        && lumbo_value::is_key(field.trim())
        && !formula.trim().is_empty()
    {
        let (formula, starts) = match formula.rsplit_once(", starting at ") {
            Some((formula, starts)) => (formula, Some(starts.trim().to_owned())),
            None => (formula, None),
        };
        return Line::WorkOut { field: field.trim().to_owned(), formula: formula.trim().to_owned(), starts };
    }
    if let Some(said) = after(text, "tell").and_then(|rest| rest.strip_prefix(':')) {
        return Line::Words { text: said.trim().to_owned(), to: None, bullet: false };
    }
    let asked = after(text, "ask").and_then(|rest| rest.strip_prefix(':'));
    if let Some(question) = question(asked.unwrap_or(text), asked.is_some()) {
        return Line::Ask(question);
    }
    let (text, to) = arrow(text);
    Line::Words { text, to, bullet: false }
}

/// A question: a line with a field in brackets, one that ends with a question mark, or one with options after it.
fn question(text: &str, surely: bool) -> Option<Question> {
    let mut out = Question::default();
    let mut rest = text.trim();
    if let Some(open) = rest.rfind('[')
        && rest.ends_with(']')
    {
        let inside = &rest[open + 1..rest.len() - 1];
        for (place, part) in inside.split(',').map(str::trim).enumerate() {
            if part.eq_ignore_ascii_case("must answer") || part.eq_ignore_ascii_case("required") {
                out.required = true;
            } else if let (Some(kind), true) = (type_of(part), place > 0) {
                out.kind = Some(kind);
            } else if place == 0 && !part.is_empty() {
                out.field = Some(part.to_owned());
                out.kind = type_of(part);
            }
        }
        rest = rest[..open].trim();
    }
    if let Some(mark) = rest.rfind('?').or_else(|| rest.rfind(':')) {
        let options: Vec<String> = rest[mark + 1..]
            .split(" / ")
            .map(|option| option.trim().to_owned())
            .filter(|option| !option.is_empty())
            .collect();
        if options.len() > 1 {
            out.options = options;
            rest = &rest[..=mark];
        }
    }
    let asks = surely || out.field.is_some() || rest.ends_with('?') || out.options.len() > 1;
    out.say = rest.to_owned();
    (asks && !rest.is_empty()).then_some(out)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn each_form_of_line_is_told_apart() {
        let to = |name: &str| Some(name.to_owned());
        for (text, line) in [
            ("# The load", Line::Section { title: "The load".into(), to: None }),
            ("## Timing -> Who", Line::Section { title: "Timing".into(), to: to("Who") }),
            ("- Frozen -> Cold", Line::Words { text: "Frozen".into(), to: to("Cold"), bullet: true }),
            ("If pallets at least 5: → Big", Line::If { condition: "pallets at least 5:".into(), to: to("Big") }),
            ("otherwise", Line::Otherwise { to: None }),
            ("-> Who", Line::GoTo("Who".into())),
            ("Go to: Who", Line::GoTo("Who".into())),
            ("Visit: Who", Line::Visit("Who".into())),
            ("file lead", Line::FileLead),
            ("Close as Lead: Thank you.", Line::Close { outcome: to("Lead"), say: "Thank you.".into() }),
            ("close", Line::Close { outcome: None, say: String::new() }),
            (
                "estimate = pallets * 4",
                Line::WorkOut { field: "estimate".into(), formula: "pallets * 4".into(), starts: None },
            ),
            (
                "rounds = rounds + 1, starting at 0",
                Line::WorkOut { field: "rounds".into(), formula: "rounds + 1".into(), starts: Some("0".into()) },
            ),
            ("Thanks.", Line::Words { text: "Thanks.".into(), to: None, bullet: false }),
            ("Closest depot matters.", Line::Words { text: "Closest depot matters.".into(), to: None, bullet: false }),
        ] {
            if text.contains("least 5:") {
                // The colon before the arrow belongs to the condition's end; the parser of conditions never sees it.
                assert!(matches!(read(text), Line::If { .. }));
            } else {
                assert_eq!(read(text), line, "{text}");
            }
        }
    }

    #[test]
    fn a_question_may_name_its_field_its_type_and_its_options() {
        let Line::Ask(question) = read("How cold must it be? Frozen / Chilled [Temperature, must answer]") else {
            panic!()
        };
        assert_eq!(question.say, "How cold must it be?");
        assert_eq!(question.field.as_deref(), Some("Temperature"));
        assert!(question.required);
        assert_eq!(question.options, ["Frozen", "Chilled"]);
        let Line::Ask(question) = read("How many pallets? [Pallets, whole number]") else { panic!() };
        assert_eq!(question.kind, Some(FieldType::WholeNumber));
        let Line::Ask(question) = read("If so, which depot?") else {
            panic!("a question that begins with if is a question")
        };
        assert_eq!(question.field, None);
    }
}
