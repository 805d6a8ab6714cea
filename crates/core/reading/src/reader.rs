//! The reader of one field: nothing said, an option as it stands, declined, what its type finds, and every rule on it.

use lumbo_language::{Kind, Language, Phrases, Scan, fill, fold};
use lumbo_value::{Choice, FieldType, Number, Rule, Text, TryMessage, Value, grouped};
use rust_decimal::Decimal;

use super::{
    Found, Heard, REPLY_LIMIT, ReadContext, ReaderError, ReaderSpec, Reading, choice, company, consent, country, date,
    email, joined, list, money, name, number, phone, place, quantity, rules, scale, text, units, website, yes_no,
};

/// Reads replies for one field under one ask's rules.
#[derive(Debug, Clone)]
pub struct Reader {
    pub(crate) kind: FieldType,
    pub(crate) key: String,
    pub(crate) units: units::Units,
    pub(crate) currency: Option<String>,
    pub(crate) required: bool,
    pub(crate) rules: Vec<rules::Ready>,
    pub(crate) options: choice::Options,
    pub(crate) language: &'static Language,
    pub(crate) phrases: Phrases,
    pub(crate) language_tag: String,
    pub(crate) required_language: String,
    pub(crate) messages: Vec<TryMessage>,
}

impl Reader {
    /// Builds a reader for a field, with an ask's own rules, options and messages.
    ///
    /// # Errors
    /// A rule that does not fit, or a parameter that is not what it should be.
    pub fn new(spec: ReaderSpec<'_>) -> Result<Self, ReaderError> {
        let ReaderSpec { field, only, language, required_language, .. } = spec;
        let mut ready = Vec::new();
        let own = field.rules.iter().filter(|rule| !spec.loosens.iter().any(|key| key == rule.key()));
        for rule in own.clone().chain(spec.rules) {
            if !rule.fits(field.kind) {
                return Err(ReaderError::Misfit { rule: rule.key(), kind: field.kind.name() });
            }
            ready.push(rules::Ready::new(rule, field, spec.fields, spec.tables)?);
        }
        ready.sort_by_key(rules::Ready::order);
        let listed: Vec<&Choice> =
            field.options.iter().filter(|option| only.is_empty() || only.contains(&option.key)).collect();
        if matches!(field.kind, FieldType::Choice | FieldType::Choices) && listed.is_empty()
            || field.kind == FieldType::Scale && listed.iter().any(|option| option.key.parse::<i64>().is_err())
        {
            return Err(ReaderError::NoOptions(field.kind.name()));
        }
        let currency = field.currency.as_deref().or(spec.currency);
        if let Some(code) = currency.filter(|code| field.kind == FieldType::Money && !money::is_currency(code)) {
            return Err(ReaderError::Currency(code.to_owned()));
        }
        let words = Language::get(language);
        let options = match field.kind {
            FieldType::YesNo => yes_no::options(words),
            _ => listed.iter().map(|option| choice::Option_::new(option, language, required_language)).collect(),
        };
        let picked = matches!(field.kind, FieldType::Choice | FieldType::Choices);
        let options = choice::Options::new(options, picked);
        let options = if picked { options.with_ranges(words) } else { options };
        Ok(Self {
            kind: field.kind,
            key: field.key.clone(),
            units: units::Units::new(field.unit.as_deref(), words),
            currency: currency.map(str::to_owned),
            required: own.chain(spec.rules).any(|rule| *rule == Rule::Required {}),
            rules: ready,
            options,
            language: words,
            phrases: Phrases::plain(language),
            language_tag: language.to_owned(),
            required_language: required_language.to_owned(),
            messages: spec.messages.to_vec(),
        })
    }

    /// Lets an author's own wording of built-in phrases stand before the built-in one.
    #[must_use]
    pub fn wording(mut self, phrases: &Phrases) -> Self {
        self.phrases = phrases.clone();
        if self.kind == FieldType::YesNo {
            for option in &mut self.options.all {
                phrases.get(&option.key).clone_into(&mut option.label);
            }
        }
        self
    }

    /// What the field holds.
    #[must_use]
    pub fn kind(&self) -> FieldType {
        self.kind
    }

    /// Options a prospect can pick, as key and label.
    pub fn options(&self) -> impl Iterator<Item = (&str, &str)> {
        self.options.all.iter().map(|option| (option.key.as_str(), option.label.as_str()))
    }

    /// The value for a picked option's key, where there is such an option.
    #[must_use]
    pub fn pick(&self, key: &str) -> Option<Value> {
        if self.kind == FieldType::Consent {
            return ["yes", "no"].contains(&key).then(|| consent::answered(key == "yes"));
        }
        self.options.index_of(key)?;
        Some(match self.kind {
            FieldType::YesNo => Value::YesNo { yes: key == "yes" },
            FieldType::Scale => Value::number(key.parse().ok()?),
            FieldType::Choices => Value::Choices { keys: vec![key.to_owned()] },
            _ => Value::choice(key),
        })
    }

    /// The value for several picked options, in the order of the field's; nothing where one of them is not offered.
    #[must_use]
    pub fn pick_several(&self, keys: &[String]) -> Option<Value> {
        if self.kind != FieldType::Choices
            || keys.is_empty()
            || !keys.iter().all(|key| self.options.index_of(key).is_some())
        {
            return None;
        }
        let keys = self
            .options
            .all
            .iter()
            .filter(|option| keys.contains(&option.key))
            .map(|option| option.key.clone())
            .collect();
        Some(Value::Choices { keys })
    }

    /// Judges a value that was not typed: the keys of the rules that it fails, and what to say.
    #[must_use]
    pub fn judge(&self, value: Value, heard: Heard, context: ReadContext<'_>, tried: u8) -> Reading {
        // Where consent is required, only a yes goes on.
        if self.required && matches!(value, Value::Consent { given: false, .. }) {
            let message = self.phrases.get("rule.required.consent").to_owned();
            return self.failure(vec!["required"], Some(heard), Some(value), tried, Some(message));
        }
        let judged = rules::Judged { key: &self.key, value: &value, context };
        let failed: Vec<&rules::Ready> = self.rules.iter().filter(|rule| !rule.holds(&judged)).collect();
        if failed.is_empty() {
            return Reading::Value { value, heard };
        }
        let mut keys: Vec<&'static str> = failed.iter().map(|rule| rule.key()).collect();
        keys.dedup();
        let unit = self.units.name.as_deref();
        let said = failed
            .iter()
            .map(|rule| rule.message(&judged, &self.phrases, unit, &self.language_tag, &self.required_language))
            .collect::<Vec<_>>()
            .join(" ");
        self.failure(keys, Some(heard), Some(value), tried, Some(said))
    }

    /// Least and most options that the rules let a prospect pick.
    #[must_use]
    pub fn limits(&self) -> (Option<u32>, Option<u32>) {
        let mut limits = (None, None);
        for rule in &self.rules {
            match rule {
                rules::Ready::AtLeast(n) => limits.0 = limits.0.max(Some(*n)),
                rules::Ready::AtMost(n) => limits.1 = Some(limits.1.map_or(*n, |known: u32| known.min(*n))),
                _ => {}
            }
        }
        limits
    }

    /// The option that the whole reply names as it stands, or by its position.
    #[must_use]
    pub fn named_exactly(&self, raw: &str) -> Option<Value> {
        match self.named(&Scan::new(raw), &fold(raw)) {
            Found::Value(value, _) => Some(value),
            _ => None,
        }
    }

    /// True where an answer must be given.
    #[must_use]
    pub fn required(&self) -> bool {
        self.required
    }

    /// True where the whole reply is a way to skip.
    #[must_use]
    pub fn is_skip(&self, raw: &str) -> bool {
        self.language.skip.contains(&fold(raw))
    }

    /// True for free text, names and companies, where nearly anything can be a value.
    #[must_use]
    pub fn takes_anything(&self) -> bool {
        matches!(
            self.kind,
            FieldType::Text | FieldType::LongText | FieldType::PersonName | FieldType::Company | FieldType::List
        )
    }

    /// Reads one reply; `tried` counts the failed tries before it and picks among the author's messages.
    #[must_use]
    pub fn read(&self, raw: &str, context: ReadContext<'_>, tried: u8) -> Reading {
        let characters = if raw.len() > REPLY_LIMIT { raw.chars().count() } else { 0 };
        if characters > REPLY_LIMIT {
            let message = fill(self.phrases.get("too_long"), &[("max", &grouped(Decimal::from(REPLY_LIMIT)))]);
            return Reading::Failed { failed: vec!["type"], message, heard: None, refused: None };
        }
        if raw.trim().is_empty() {
            let key = if self.required { "required" } else { "type" };
            return self.failure(vec![key], None, None, tried, None);
        }
        let folded = fold(raw);
        let scan = Scan::new(raw);
        // An option that the author words "Don't know" is an answer, so options come before declining.
        if matches!(self.kind, FieldType::Choice | FieldType::YesNo)
            && let Found::Value(value, heard) = self.named(&scan, &folded)
        {
            return self.judge(value, self.doubted(heard, &scan), context, tried);
        }
        // "I'm a sole trader" names an option, though elsewhere it says that there is no company.
        let names_option =
            matches!(self.kind, FieldType::Choice | FieldType::Choices) && !self.options.mentions(&scan).is_empty();
        if !names_option && self.declines(raw, &folded) {
            return Reading::Declined;
        }
        let found = match self.found(&scan, &folded, context) {
            Found::Value(value, _) if !self.reads_back(&value, raw, context) => Found::Nothing,
            found => found,
        };
        match found {
            Found::Nothing if self.declines_in_part(&scan) => Reading::Declined,
            Found::Declined => Reading::Declined,
            Found::Nothing => self.failure(vec!["type"], None, None, tried, None),
            Found::Several(heard) => Reading::Failed {
                failed: vec!["type"],
                message: self.phrases.get("two").to_owned(),
                heard: Some(heard),
                refused: None,
            },
            Found::Tie(keys) => Reading::Tie(keys),
            Found::Refused(value, heard, rule) => self.refusal(value, heard, rule, context, tried),
            Found::Value(value, heard) => self.judge(value, self.doubted(heard, &scan), context, tried),
        }
    }

    /// An answer among options with a word of doubt beside it, "probably the big one", marks what was heard. A word of
    /// an option's own is none: "Maybe later".
    fn doubted(&self, heard: Heard, scan: &Scan<'_>) -> Heard {
        if !(self.kind.has_options() || self.kind == FieldType::YesNo) {
            return heard;
        }
        let own = |from: usize, to: usize| {
            let words = scan.raw.get(scan.tokens[from].start..scan.tokens[to - 1].end).map(fold).unwrap_or_default();
            self.options.all.iter().any(|option| fold(&option.label).contains(&words))
        };
        let doubts = |at: usize| self.language.doubts.at(scan, at).is_some_and(|(_, next)| !own(at, next));
        Heard { unsure: (0..scan.tokens.len().min(200)).any(doubts), ..heard }
    }

    /// True where the value, said back in words, would be read as the same value. Names, companies, places and lists
    /// are told by the words around them; one that could not be said back is asked for again.
    pub(crate) fn reads_back(&self, value: &Value, raw: &str, context: ReadContext<'_>) -> bool {
        let words = match (self.kind, value) {
            (FieldType::PersonName | FieldType::Company | FieldType::List, value) => value.to_string(),
            (FieldType::Place | FieldType::Address, Value::Place(found)) => place::shown(found, &self.language_tag),
            _ => return true,
        };
        let names = matches!(self.kind, FieldType::PersonName | FieldType::Company | FieldType::Place);
        if names && self.language.talks(&words) {
            return false;
        }
        // The whole reply is what would be said back: it has just been read as that, and does not decline.
        if context.earlier.is_none() && words == raw.trim() {
            return true;
        }
        let context = ReadContext { earlier: None, ..context };
        let folded = fold(&words);
        !self.declines(&words, &folded)
            && matches!(self.found(&Scan::new(&words), &folded, context), Found::Value(again, _) if again == *value)
    }

    /// The value that the type's own reader finds.
    pub(crate) fn found(&self, scan: &Scan<'_>, folded: &str, context: ReadContext<'_>) -> Found {
        let language = self.language;
        match self.kind {
            FieldType::Text => text::read(scan.raw, false),
            FieldType::LongText => text::read(scan.raw, true),
            FieldType::PersonName => name::read(scan, language, context.earlier),
            FieldType::Company => company::read(scan, language),
            FieldType::Email => email::read(scan, language),
            FieldType::Phone => phone::read(scan, language, context.country),
            FieldType::Website => website::read(scan.raw),
            FieldType::WholeNumber => self.or_days(number::read_whole(scan, language, &self.units), scan),
            FieldType::Quantity => self.or_days(quantity::read(scan, language, &self.units), scan),
            FieldType::Money => money::read(scan, language, self.money(context)),
            FieldType::Date => date::read(scan, self.calendar(context)),
            FieldType::YesNo if language.unclear.contains(folded) => Found::Nothing,
            FieldType::YesNo => yes_no::read(scan, folded, language),
            FieldType::Choice => self.option(self.options.sought(scan, folded, language), scan),
            FieldType::Choices => match self.options.several(scan, folded, language) {
                Some(keys) => Found::Value(Value::Choices { keys }, Heard::whole(scan.raw)),
                None if language.none_of.contains(folded) => Found::Declined,
                None => Found::Nothing,
            },
            FieldType::Scale => scale::read(scan, folded, language, &self.options),
            FieldType::Place => place::read(scan, language, context.country),
            FieldType::Address => place::read_address(scan, language, context.country),
            FieldType::List => list::read(scan, language),
            FieldType::Country => country::read(scan, language),
            FieldType::Consent => consent::read(scan, folded, language),
        }
    }

    /// "A weekend" where days are asked for and nothing else was heard.
    fn or_days(&self, found: Found, scan: &Scan<'_>) -> Found {
        if !self.units.counts_days() || !matches!(found, Found::Nothing) {
            return found;
        }
        let mut heard = (0..scan.tokens.len().min(50)).filter_map(|at| {
            let (days, next) = self.language.days_of.at(scan, at)?;
            Some((days, at, next))
        });
        // "A long weekend" is no weekend; of two such words nothing can be told.
        let Some((days, at, next)) = heard.next() else { return found };
        if heard.any(|(_, later, _)| later >= next) {
            return found;
        }
        let heard = Heard::at(scan.raw, scan.tokens[at].start, scan.tokens[next - 1].end);
        let unit = self.units.name.clone().filter(|_| self.kind == FieldType::Quantity);
        Found::Value(Value::Number(Number { amount: Decimal::from(days), low: None, high: None, unit }), heard)
    }

    /// A number that would do, with its unit: "120 pallets".
    fn example(&self) -> String {
        let (mut low, mut high) = (Decimal::ZERO, Decimal::MAX);
        for rule in &self.rules {
            if let rules::Ready::Range { min, max } = rule {
                low = min.map_or(low, |min| low.max(min));
                high = max.map_or(high, |max| high.min(max));
            }
        }
        let usual = Decimal::from(120);
        let middle = || ((low + high) / Decimal::TWO).floor().max(low);
        let number = if usual < low {
            low
        } else if usual > high {
            middle()
        } else {
            usual
        };
        match &self.units.name {
            Some(unit) => format!("{} {unit}", grouped(number)),
            None => grouped(number),
        }
    }

    pub(crate) fn money<'a>(&'a self, context: ReadContext<'a>) -> money::Hints<'a> {
        money::Hints { currency: self.currency.as_deref(), country: context.country }
    }

    pub(crate) fn calendar<'a>(&self, context: ReadContext<'a>) -> date::Calendar<'a> {
        date::Calendar { language: self.language, today: context.today, country: context.country }
    }

    /// An answer that is an option as it stands, or its position.
    pub(crate) fn named(&self, scan: &Scan<'_>, folded: &str) -> Found {
        // "None of them" where one option is "None".
        if self.kind == FieldType::Choice
            && self.language.none_of.contains(folded)
            && let Some(index) = self.options.named_none(self.language)
        {
            return self.option(choice::Match::One(index, 0, scan.tokens.len()), scan);
        }
        if self.kind == FieldType::YesNo {
            // Polish "no" says yes; it is asked again.
            if self.language.unclear.contains(folded) {
                return Found::Nothing;
            }
            return match self.options.named(scan, folded, self.language) {
                choice::Match::One(index, ..) => Found::Value(Value::YesNo { yes: index == 0 }, Heard::whole(scan.raw)),
                _ => Found::Nothing,
            };
        }
        self.option(self.options.named(scan, folded, self.language), scan)
    }

    pub(crate) fn option(&self, matched: choice::Match, scan: &Scan<'_>) -> Found {
        match matched {
            choice::Match::One(index, first, next) => {
                let whole = first == 0 && next >= scan.tokens.len();
                let heard = if whole || next <= first {
                    Heard::whole(scan.raw)
                } else {
                    Heard::at(scan.raw, scan.tokens[first].start, scan.tokens[next - 1].end)
                };
                self.options
                    .all
                    .get(index)
                    .map_or(Found::Nothing, |option| Found::Value(Value::choice(option.key.clone()), heard))
            }
            choice::Match::Tie(keys) => Found::Tie(keys),
            choice::Match::None => Found::Nothing,
        }
    }

    /// True where the whole reply says that there is no answer, or that they would rather not.
    pub(crate) fn declines(&self, raw: &str, folded: &str) -> bool {
        let english = Language::get("en");
        let whole = if folded.is_empty() { raw.trim() } else { folded };
        let said = self.language.without_manners(whole);
        // A dash, or a word that says no in this type's own way: a country's code may be NO.
        let listed = |said: &str| {
            self.language.declined.contains(said)
                || english.declined.contains(said) && !self.language.yes.contains(said)
        };
        let declined = listed(whole) || listed(said);
        let no = self.language.no.contains(whole) || self.language.no.contains(said);
        if self.has_none(raw) {
            return true;
        }
        match self.kind {
            FieldType::YesNo => declined && !no,
            // “No, thank you” answers; “not now” does not.
            FieldType::Consent => {
                let first = whole.split([' ', ',']).next();
                declined && !first.is_some_and(|word| self.language.no.contains(word))
            }
            FieldType::Text | FieldType::LongText => declined,
            FieldType::Country => declined || no && raw.trim() != "NO",
            FieldType::Choice | FieldType::Choices => {
                declined || self.language.none_of.contains(said) && self.options.named_none(self.language).is_none()
            }
            _ => declined || no,
        }
    }

    /// "No company", "keine Firma", "no fixed place": where nearly anything could be a value, a short reply that begins
    /// so is none. What is written large goes on with a name: "No Limits".
    pub(crate) fn has_none(&self, raw: &str) -> bool {
        if !matches!(
            self.kind,
            FieldType::PersonName | FieldType::Company | FieldType::Place | FieldType::Address | FieldType::List
        ) {
            return false;
        }
        let scan = Scan::new(raw);
        let words = scan.tokens.iter().rposition(|token| token.kind != Kind::Mark).map_or(0, |last| last + 1);
        let Some((_, next)) = self.language.none_begins.at(&scan, 0) else { return false };
        let small = |index: usize| scan.is_small(index) || self.language.nouns_are_large;
        next < words && words <= next + 2 && (next..words).all(|index| scan.word(index).is_some() && small(index))
    }

    /// True where nothing could be read and the first or the last clause declines: "none, we don't have a website".
    pub(crate) fn declines_in_part(&self, scan: &Scan<'_>) -> bool {
        let parts: Vec<String> = scan
            .raw
            .split([',', '.', '!', ';', '\n'])
            .map(fold)
            .filter(|part| part.chars().any(char::is_alphanumeric))
            .take(8)
            .collect();
        // "I don't have a website", "no site": a short sentence that begins so and holds no value.
        let short = scan.tokens.len() <= 9
            && !matches!(
                self.kind,
                FieldType::YesNo | FieldType::Choice | FieldType::Choices | FieldType::Scale | FieldType::Consent
            );
        let none = self.language.none_begins.at(scan, 0).is_some();
        let digits = scan.tokens.iter().any(|token| token.kind == Kind::Digits);
        let no = !digits
            && (none || scan.tokens.first().is_some_and(|token| self.language.no.contains(&*token.folded)))
            && scan.tokens.len() <= 5;
        if short && (no || self.language.declined_begins.at(scan, 0).is_some()) {
            return true;
        }
        parts.len() > 1
            && [parts.first(), parts.last()].into_iter().flatten().any(|part| {
                let no = self.language.no.contains(part);
                self.language.declined.contains(part) && !(self.kind == FieldType::YesNo && no)
                    || no
                        && !matches!(
                            self.kind,
                            FieldType::YesNo | FieldType::Choice | FieldType::Choices | FieldType::Scale
                        )
            })
    }

    /// A value that the type's built-in rule refuses, beside every other rule that it fails.
    pub(crate) fn refusal(
        &self,
        value: Value,
        heard: Heard,
        rule: &'static str,
        context: ReadContext<'_>,
        tried: u8,
    ) -> Reading {
        let judged = rules::Judged { key: &self.key, value: &value, context };
        let unit = self.units.name.as_deref();
        let mut failed: Vec<(usize, &'static str, String)> = self
            .rules
            .iter()
            .filter(|own| own.key() != rule && !own.holds(&judged))
            .map(|own| {
                (
                    own.order(),
                    own.key(),
                    own.message(&judged, &self.phrases, unit, &self.language_tag, &self.required_language),
                )
            })
            .collect();
        let built_in = match rule {
            "range" => {
                let steps: Vec<Decimal> =
                    self.options.all.iter().filter_map(|option| option.key.parse().ok()).collect();
                let end = |end: Option<&Decimal>| end.map(|end| grouped(*end)).unwrap_or_default();
                (
                    3,
                    fill(
                        self.phrases.get("rule.range.between"),
                        &[("heard", &heard.text), ("min", &end(steps.iter().min())), ("max", &end(steps.iter().max()))],
                    ),
                )
            }
            "whole" => (4, fill(self.phrases.get("rule.whole"), &[("heard", &heard.text)])),
            _ => (8, fill(self.phrases.get("rule.phone_valid"), &[("heard", &heard.text)])),
        };
        failed.push((built_in.0, rule, built_in.1));
        failed.sort_by_key(|(order, ..)| *order);
        let said = failed.iter().map(|(.., said)| said.as_str()).collect::<Vec<_>>().join(" ");
        self.failure(failed.iter().map(|(_, key, _)| *key).collect(), Some(heard), Some(value), tried, Some(said))
    }

    pub(crate) fn failure(
        &self,
        failed: Vec<&'static str>,
        heard: Option<Heard>,
        refused: Option<Value>,
        tried: u8,
        said: Option<String>,
    ) -> Reading {
        let default = said.unwrap_or_else(|| match failed.first() {
            Some(&"required") => self.phrases.get("rule.required").to_owned(),
            _ => {
                let kind = if self.kind == FieldType::LongText { FieldType::Text } else { self.kind };
                fill(self.phrases.get(&format!("type.{}", kind.name())), &[("example", &self.example())])
            }
        });
        let own = failed
            .iter()
            .chain(std::iter::once(&"any"))
            .find_map(|key| self.messages.iter().find(|message| message.on == *key));
        // Said again in the same words it would only be louder.
        let again = match tried {
            0 => None,
            1 => Some("try.second"),
            _ => Some("try.third"),
        };
        let default =
            again.map_or_else(|| default.clone(), |key| fill(self.phrases.get(key), &[("message", &default)]));
        let message = own.and_then(|own| own.say.get(usize::from(tried)).or_else(|| own.say.last())).map_or(
            default,
            |text: &Text| {
                let heard = heard.as_ref().map_or("", |heard| heard.text.as_str());
                fill(text.get(&self.language_tag, &self.required_language), &[("heard", heard)])
            },
        );
        Reading::Failed { failed, message, heard, refused }
    }

    /// The question that asks a tie back.
    #[must_use]
    pub fn tie_question(&self, keys: &[String]) -> String {
        let labels: Vec<String> = self
            .options
            .all
            .iter()
            .filter(|option| keys.contains(&option.key))
            .map(|option| option.label.clone())
            .collect();
        fill(self.phrases.get("tie"), &[("candidates", &joined(&labels, self.phrases.get("or")))])
    }
}
