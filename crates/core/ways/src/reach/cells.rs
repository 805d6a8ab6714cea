//! Cells: each field cut into what its readers can tell apart, with one value for each piece.
//!
//! A field's cells are bits of a [`Mask`]. The first ones say why there is no value; the others hold values that no
//! condition, criterion, routing rule or rule on an answer can tell from one another.

use jiff::civil::Date;
use rust_decimal::Decimal;

use lumbo_condition::{Comparand, Operator};
use lumbo_dialogue::Plan;
use lumbo_dialogue::file::{Field, FieldType, Rule};
use lumbo_language::Language;
use lumbo_reading::domains::DomainLists;
use lumbo_reading::{Heard, ReadContext, Reader, Reading, shown};
use lumbo_value::{Precision, Value};

/// A set of cells of one field.
pub(crate) type Mask = u64;

/// Missing, and never asked for.
pub(crate) const NOT_ASKED: Mask = 1;
/// Missing after all tries; another turn may ask again.
pub(crate) const TRIED: Mask = 1 << 1;
/// Missing, skipped or declined at more than one turn: no turn asks again.
pub(crate) const LEFT_ALL: Mask = 1 << 2;
/// Turns that are told apart where they left a field open; the first of its bits.
const LEFT_AT: usize = 3;
/// How many turns are told apart.
const LEFT_TURNS: usize = 3;
/// Missing, skipped or declined, wherever that was.
pub(crate) const LEFT: Mask = LEFT_ALL | ((1 << LEFT_TURNS) - 1) << LEFT_AT;
/// Missing for whatever reason.
pub(crate) const MISSING: Mask = NOT_ASKED | TRIED | LEFT;
/// Place of the first cell that holds values.
pub(crate) const FIRST: usize = LEFT_AT + LEFT_TURNS;

/// Missing, skipped or declined at one turn of those that ask for the field, by its order among them.
pub(crate) fn left_at(order: usize) -> Mask {
    if order < LEFT_TURNS { 1 << (LEFT_AT + order) } else { LEFT_ALL }
}

/// No longer looked at: nothing that comes reads it.
pub(crate) const FORGOTTEN: Mask = Mask::MAX;
/// Most cells with values.
const MOST: usize = 50;
/// Most options that a condition on several options may name.
const MOST_NAMED: usize = 5;

/// The cells of one field.
#[derive(Debug, Clone)]
pub(crate) struct Cells {
    /// A value of each cell that holds values; nothing where none could be made up.
    pub values: Vec<Option<Value>>,
    /// True where each cell holds one value only, so that a formula can be worked out exactly.
    pub single: bool,
    /// True where comparisons with constants cannot be told by the cells.
    pub blurred: bool,
    /// For numbers and dates: which cells are a constant alone, the others being what lies between.
    pub fixed: Vec<bool>,
}

impl Cells {
    /// Every cell that holds values.
    pub fn known(&self) -> Mask {
        ((1 << self.values.len()) - 1) << FIRST
    }

    /// The value of one cell; nothing for missing ones.
    pub fn value(&self, cell: usize) -> Option<&Value> {
        cell.checked_sub(FIRST).and_then(|place| self.values.get(place)).and_then(Option::as_ref)
    }

    fn of(values: Vec<Value>, single: bool) -> Self {
        Self { values: values.into_iter().map(Some).collect(), single, blurred: false, fixed: Vec::new() }
    }

    /// Cells in the order of their values, constants marked.
    fn ordered(values: Vec<(Value, bool)>) -> Self {
        let (values, fixed) = values.into_iter().unzip();
        Self { fixed, ..Self::of(values, false) }
    }

    fn blurred(value: Option<Value>) -> Self {
        Self { values: vec![value], single: false, blurred: true, fixed: Vec::new() }
    }
}

/// Cells of a mask, one after another.
pub(crate) fn each(mask: Mask) -> impl Iterator<Item = usize> {
    let mut rest = mask;
    std::iter::from_fn(move || {
        let cell = rest.trailing_zeros();
        (cell < Mask::BITS).then(|| {
            rest &= rest - 1;
            cell as usize
        })
    })
}

/// What conditions and rules compare one field with.
#[derive(Debug, Default)]
pub(crate) struct Compared<'a> {
    /// Comparisons.
    pub with: Vec<(Operator, &'a [Comparand])>,
    /// Rules on answers.
    pub rules: Vec<&'a Rule>,
    /// Options that arms name.
    pub options: Vec<&'a str>,
}

/// A consent's place among its cells, behind those of a missing value.
pub(crate) const REFUSED: Mask = 1 << (FIRST + 1);

fn consent(given: bool) -> Value {
    Value::Consent { wording: 1, at: String::from("2026-01-01T00:00:00Z"), given }
}

/// Cuts a field into its cells.
pub(crate) fn cut(plan: &Plan, field: &Field, compared: &Compared<'_>, today: Date) -> Cells {
    use FieldType as T;
    match field.kind {
        T::YesNo => Cells::of(vec![Value::YesNo { yes: true }, Value::YesNo { yes: false }], true),
        T::Consent => Cells::of(vec![consent(true), consent(false)], true),
        T::Choice => choice(field, compared),
        T::Choices => choices(field, compared),
        T::WholeNumber | T::Scale | T::Quantity => numbers(field, compared),
        T::Money => money(plan, field, compared),
        T::Date => dates(compared, today),
        T::Text | T::LongText | T::Company | T::Email | T::Website | T::Country => texts(field, compared),
        T::PersonName | T::Phone | T::Place | T::Address | T::List => Cells {
            blurred: compared.with.iter().any(|(is, _)| !matches!(is, Operator::IsKnown | Operator::IsMissing)),
            ..Cells::of(Vec::new(), false)
        }
        .with_some(),
    }
}

impl Cells {
    /// At least one cell holds values, though none could be made up.
    fn with_some(mut self) -> Self {
        if self.values.is_empty() {
            self.values.push(None);
        }
        self
    }
}

fn choice(field: &Field, compared: &Compared<'_>) -> Cells {
    let every = || field.options.iter().map(|option| option.key.as_str());
    let keys: Vec<&str> = if field.options.len() <= MOST {
        every().collect()
    } else {
        let named = |key: &str| {
            compared.options.contains(&key)
                || compared
                    .with
                    .iter()
                    .any(|(_, to)| to.iter().any(|to| matches!(to, Comparand::Text(text) if text == key)))
        };
        let other = every().find(|key| !named(key));
        every().filter(|key| named(key)).chain(other).collect()
    };
    if keys.len() > MOST {
        return Cells::blurred(keys.first().map(|key| Value::choice(*key)));
    }
    let single = keys.len() == field.options.len();
    Cells::of(keys.into_iter().map(Value::choice).collect(), single).with_some()
}

fn choices(field: &Field, compared: &Compared<'_>) -> Cells {
    let named: Vec<&str> = field
        .options
        .iter()
        .map(|option| option.key.as_str())
        .filter(|key| {
            compared.with.iter().any(|(_, to)| to.iter().any(|to| matches!(to, Comparand::Text(text) if text == key)))
        })
        .collect();
    let others: Vec<&str> =
        field.options.iter().map(|option| option.key.as_str()).filter(|key| !named.contains(key)).collect();
    if named.len() > MOST_NAMED {
        return Cells::blurred(field.options.first().map(|option| Value::Choices { keys: vec![option.key.clone()] }));
    }
    let in_order = |keys: &[&str]| Value::Choices {
        keys: field
            .options
            .iter()
            .map(|option| option.key.clone())
            .filter(|key| keys.contains(&key.as_str()))
            .collect(),
    };
    // How many options an answer may have is a rule of the ask: the fewest that are taken stand for the rest.
    let least = compared
        .rules
        .iter()
        .filter_map(|rule| if let Rule::AtLeast { n } = rule { usize::try_from(*n).ok() } else { None })
        .max()
        .unwrap_or(1)
        .max(1);
    let mut values = Vec::new();
    for pattern in 0..1_u32 << named.len() {
        let mut keys: Vec<&str> =
            named.iter().enumerate().filter(|(place, _)| pattern >> place & 1 == 1).map(|(_, key)| *key).collect();
        let lacking = least.saturating_sub(keys.len());
        keys.extend(others.iter().take(lacking));
        if !keys.is_empty() {
            values.push(in_order(&keys));
        }
    }
    Cells::of(values, false).with_some()
}

/// Points of the constants, marked, and of what lies below, between and above them.
fn points<T: Ord + Clone>(
    mut constants: Vec<T>,
    next_to: impl Fn(&T, bool) -> Option<T>,
    between: impl Fn(&T, &T) -> Option<T>,
) -> Vec<(T, bool)> {
    constants.sort();
    constants.dedup();
    let open = |point: T| (point, false);
    let mut out = Vec::new();
    out.extend(constants.first().and_then(|first| next_to(first, false)).map(open));
    for (place, constant) in constants.iter().enumerate() {
        out.push((constant.clone(), true));
        out.extend(constants.get(place + 1).and_then(|after| between(constant, after)).map(open));
    }
    out.extend(constants.last().and_then(|last| next_to(last, true)).map(open));
    out
}

fn numbers_of(constants: Vec<Decimal>, whole: bool) -> Vec<(Decimal, bool)> {
    let constants = if whole && constants.iter().any(|number| !number.is_integer()) {
        constants.into_iter().flat_map(|number| [number.floor(), number.ceil()]).collect()
    } else {
        constants
    };
    points(
        constants,
        |end, above| {
            if above { end.checked_add(Decimal::ONE) } else { end.checked_sub(Decimal::ONE) }
                .map(|number| if whole { number.floor() } else { number })
        },
        |low, high| {
            let middle = (*low + (*high - *low) / Decimal::TWO).round_dp(6);
            let middle = if middle.floor() > *low { middle.floor() } else { middle };
            (middle > *low && middle < *high && (!whole || middle.is_integer())).then_some(middle)
        },
    )
}

fn rule_numbers(compared: &Compared<'_>) -> impl Iterator<Item = Decimal> {
    let ends = compared
        .rules
        .iter()
        .filter_map(|rule| if let Rule::Range { min, max } = rule { Some([min, max]) } else { None });
    ends.flatten().flatten().filter_map(|end| end.trim().parse().ok())
}

fn numbers(field: &Field, compared: &Compared<'_>) -> Cells {
    let mut constants: Vec<Decimal> = compared
        .with
        .iter()
        .flat_map(|(_, to)| {
            to.iter().filter_map(|to| if let Comparand::Number(number) = to { Some(*number) } else { None })
        })
        .collect();
    constants.extend(rule_numbers(compared));
    // Below nothing is refused where no range says otherwise.
    constants.push(Decimal::ZERO);
    let whole = field.kind != FieldType::Quantity || compared.rules.iter().any(|rule| matches!(rule, Rule::Whole {}));
    let values = numbers_of(constants, whole);
    if values.len() > MOST {
        return Cells::blurred(Some(Value::number(Decimal::TWO)));
    }
    Cells::ordered(values.into_iter().map(|(number, fixed)| (Value::number(number), fixed)).collect())
}

fn money(plan: &Plan, field: &Field, compared: &Compared<'_>) -> Cells {
    let usual = field.currency.as_deref().unwrap_or(&plan.file.settings.currency);
    let mut code = None;
    let mut constants = Vec::new();
    for to in compared.with.iter().flat_map(|(_, to)| to.iter()) {
        if let Comparand::Money(amount, with) = to {
            if code.is_some_and(|code| code != with) {
                return Cells::blurred(Some(Value::Money { amount: Decimal::ONE_HUNDRED, currency: usual.to_owned() }));
            }
            code = Some(with);
            constants.push(*amount);
        }
    }
    constants.extend(rule_numbers(compared));
    constants.push(Decimal::ZERO);
    let in_code = code.map_or(usual, String::as_str);
    let compared_at_all = code.is_some();
    let values = numbers_of(constants, false);
    if values.len() >= MOST {
        return Cells::blurred(Some(Value::Money { amount: Decimal::ONE_HUNDRED, currency: usual.to_owned() }));
    }
    let mut values: Vec<(Value, bool)> = values
        .into_iter()
        .map(|(amount, fixed)| (Value::Money { amount, currency: in_code.to_owned() }, fixed))
        .collect();
    // Amounts in another currency compare with nothing.
    if compared_at_all {
        let other = if in_code == "EUR" { "USD" } else { "EUR" };
        values.push((Value::Money { amount: Decimal::ONE_HUNDRED, currency: other.to_owned() }, false));
    }
    Cells::ordered(values)
}

fn dates(compared: &Compared<'_>, today: Date) -> Cells {
    let ahead = |days: i64| today.checked_add(jiff::Span::new().try_days(days).ok()?).ok();
    let mut constants: Vec<Date> = Vec::new();
    for (is, to) in &compared.with {
        for to in *to {
            match to {
                Comparand::Date(date) => constants.push(*date),
                Comparand::Number(days) if *is == Operator::WithinDays => {
                    constants.push(today);
                    constants.extend(i64::try_from(days.floor().mantissa()).ok().and_then(ahead));
                }
                Comparand::Number(_) | Comparand::Text(_) | Comparand::Money(..) | Comparand::YesNo(_) => {}
            }
        }
    }
    for rule in &compared.rules {
        match rule {
            Rule::NotPast {} => constants.push(today),
            Rule::WithinDays { days } => constants.extend([Some(today), ahead(i64::from(*days))].into_iter().flatten()),
            _ => {}
        }
    }
    if constants.is_empty() {
        constants.extend(ahead(30));
    }
    let values = points(
        constants,
        |end, above| end.checked_add(jiff::Span::new().days(if above { 1 } else { -1 })).ok(),
        |low, high| {
            let days = low.until(*high).ok()?.get_days();
            (days >= 2).then(|| low.checked_add(jiff::Span::new().days(days / 2)).ok()).flatten()
        },
    );
    let date = |date| Value::Date { date, precision: Precision::Day };
    if values.len() > MOST {
        return Cells::blurred(values.last().map(|(last, _)| date(*last)));
    }
    Cells::ordered(values.into_iter().map(|(day, fixed)| (date(day), fixed)).collect()).with_some()
}

fn texts(field: &Field, compared: &Compared<'_>) -> Cells {
    let mut constants: Vec<&str> = Vec::new();
    for (is, to) in &compared.with {
        if *is == Operator::Contains {
            return Cells::blurred(None);
        }
        constants
            .extend(to.iter().filter_map(|to| if let Comparand::Text(text) = to { Some(text.as_str()) } else { None }));
    }
    constants.sort_unstable();
    constants.dedup();
    if constants.len() >= MOST {
        return Cells::blurred(None);
    }
    let country = field.kind == FieldType::Country;
    let value = |text: &str| Some(Value::text(if country { text.to_uppercase() } else { text.to_owned() }));
    let mut values: Vec<Option<Value>> = constants.iter().map(|text| value(text)).collect();
    // Whatever else: made up where a reader takes it.
    values.push(None);
    Cells { values, single: false, blurred: false, fixed: Vec::new() }
}

/// Which cells an ask takes, and what a prospect types for each of them.
#[derive(Debug, Clone)]
pub(crate) struct Taken {
    /// The cells.
    pub mask: Mask,
    /// A reply for each cell that holds values, where one could be made up.
    pub typed: Vec<Option<String>>,
}

/// Which cells of a field a reader takes.
pub(crate) fn taken(plan: &Plan, field: &Field, cells: &Cells, reader: &Reader, rules: &[&Rule], today: Date) -> Taken {
    let domains = DomainLists::default();
    let context = ReadContext {
        country: Some(&plan.file.settings.country),
        today: Some(today),
        earlier: None,
        known: None,
        domains: Some(&domains),
    };
    let reads = |text: &str| match reader.read(text, context, 0) {
        Reading::Value { value, .. } => Some(value),
        Reading::Declined | Reading::Tie(_) | Reading::Failed { .. } => None,
    };
    // A rule that the cells do not know may take one value of a cell and refuse another.
    let unsure = rules.iter().any(|rule| matches!(rule, Rule::Formula { .. } | Rule::Pattern { .. }));
    let mut mask = 0;
    let mut typed = Vec::new();
    for (place, value) in cells.values.iter().enumerate() {
        let bit = 1 << (FIRST + place);
        let Some(value) = value else {
            mask |= bit;
            typed.push(
                candidates(field.kind)
                    .iter()
                    .map(|text| (*text).to_owned())
                    .find(|text| reads(text).is_some_and(|value| !cells.values.contains(&Some(value)))),
            );
            continue;
        };
        let words = shown(field, value, &plan.language, &plan.file.language);
        let same = |read: &Value| match (read, value) {
            (Value::Consent { given: one, .. }, Value::Consent { given: two, .. }) => one == two,
            _ => read == value || amounts_match(read, value),
        };
        let by_words = [words, value.to_string()].into_iter().find(|text| reads(text).is_some_and(|read| same(&read)));
        let picked = match value {
            Value::Choice { key } => reader.pick(key),
            Value::Choices { keys } => reader.pick_several(keys),
            Value::YesNo { yes } | Value::Consent { given: yes, .. } => reader.pick(if *yes { "yes" } else { "no" }),
            _ => None,
        };
        let judged = |value: Value| matches!(reader.judge(value, Heard::default(), context, 0), Reading::Value { .. });
        let offered = match value {
            Value::Choice { .. } | Value::Choices { .. } => picked.is_some(),
            _ => true,
        };
        let taken = offered && (by_words.is_some() || judged(picked.unwrap_or_else(|| value.clone())) || unsure);
        if taken || cells.blurred {
            mask |= bit;
        }
        typed.push(by_words.filter(|_| taken));
    }
    Taken { mask, typed }
}

fn amounts_match(read: &Value, value: &Value) -> bool {
    match (read, value) {
        (Value::Number(read), Value::Number(value)) => read.amount == value.amount && read.low.is_none(),
        _ => false,
    }
}

/// Replies that a field of a type may take, for cells that hold whatever is not named.
fn candidates(kind: FieldType) -> &'static [&'static str] {
    use FieldType as T;
    match kind {
        T::Text | T::LongText => &["a few things", "quite a lot of it", "nothing special so far", "1234", "AB-1234"],
        T::PersonName => &["Ana Ruiz", "Ana Maria Ruiz"],
        T::Company => &["Harbour Foods Ltd"],
        T::Email => &["ana@harbour-foods.example", "ana.ruiz@quay.example.com"],
        // Numbers kept free for fiction where a country has such; Ofcom and the North American numbering plan publish
        // theirs, the others are written from memory.
        T::Phone => &[
            "020 7946 0958",
            "+44 20 7946 0958",
            "+1 202 555 0143",
            "+49 30 23125 123",
            "+33 1 99 00 12 34",
            "+34 912 345 678",
            "+31 20 123 4567",
            "+48 22 123 45 67",
            "+353 1 234 5678",
        ],
        T::Website => &["https://harbour-foods.example", "www.harbour-foods.com"],
        T::Place => &["Leeds", "York"],
        T::Address => &["1 Quay Street, Leeds LS1 4AB, United Kingdom", "1 Quay Street, Leeds LS1 4AB"],
        T::List => &["apples, pears and plums"],
        T::Country => &["Iceland", "Malta", "Chile", "Kenya", "Japan"],
        T::WholeNumber
        | T::Quantity
        | T::Money
        | T::Date
        | T::YesNo
        | T::Choice
        | T::Choices
        | T::Scale
        | T::Consent => &[],
    }
}

/// Words with which a prospect declines, in the dialogue's language.
pub(crate) fn declining(language: &str) -> Option<String> {
    let declined = &Language::get(language).declined;
    let mut words: Vec<&String> = declined.iter().collect();
    words.sort();
    ["rather not", "i'd rather not say"]
        .into_iter()
        .find(|text| declined.contains(*text))
        .map(str::to_owned)
        .or_else(|| words.first().map(|text| (*text).clone()))
}
