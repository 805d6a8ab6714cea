//! From words to a tree. Precedence of OpenFormula 5.5: unary minus, `%`, `^` (left to right), `* /`, `+ -`, `&`,
//! comparison.

use rust_decimal::Decimal;

use super::lex::{Token, Word};
use super::{DEPTH_LIMIT, FormulaError};

/// A tree with the character each part begins at.
#[derive(Debug, Clone, PartialEq)]
pub(crate) struct Node {
    pub at: usize,
    pub kind: Kind,
}

#[derive(Debug, Clone, PartialEq)]
pub(crate) enum Kind {
    Number(Decimal),
    Text(String),
    YesNo(bool),
    Name(String),
    Negate(Box<Node>),
    Percent(Box<Node>),
    Binary(&'static str, Box<Node>, Box<Node>),
    Call(String, Vec<Node>),
}

impl Node {
    pub(super) fn each_name(&self, visit: &mut impl FnMut(&str)) {
        match &self.kind {
            Kind::Name(name) => visit(name),
            Kind::Negate(inner) | Kind::Percent(inner) => inner.each_name(visit),
            Kind::Binary(_, left, right) => {
                left.each_name(visit);
                right.each_name(visit);
            }
            Kind::Call(name, arguments) => {
                // LOOKUP's second and third arguments are the names of a table and a column.
                let fields = if name == "LOOKUP" { &arguments[..arguments.len().min(1)] } else { arguments.as_slice() };
                fields.iter().for_each(|argument| argument.each_name(visit));
            }
            Kind::Number(_) | Kind::Text(_) | Kind::YesNo(_) => {}
        }
    }

    /// True where a value that is there may still give none: a division by what may be zero, a power, a table without
    /// the row, a date outside the calendar. Numbers too large and mixed currencies aside.
    pub(super) fn can_fail(&self) -> bool {
        let certain = |node: &Node| matches!(&node.kind, Kind::Number(number) if !number.is_zero());
        match &self.kind {
            Kind::Number(_) | Kind::Text(_) | Kind::YesNo(_) | Kind::Name(_) => false,
            Kind::Negate(inner) | Kind::Percent(inner) => inner.can_fail(),
            Kind::Binary(mark, left, right) => {
                *mark == "^" || *mark == "/" && !certain(right) || left.can_fail() || right.can_fail()
            }
            Kind::Call(name, arguments) => {
                let itself = match name.as_str() {
                    "LOOKUP" | "DATE" => true,
                    "MOD" => !arguments.get(1).is_some_and(certain),
                    _ => false,
                };
                itself || arguments.iter().any(Node::can_fail)
            }
        }
    }

    /// Calls `visit` for every name whose value, not only whether it is there, decides which parts are worked out.
    pub(super) fn each_decider(&self, visit: &mut impl FnMut(&str)) {
        match &self.kind {
            Kind::Number(_) | Kind::Text(_) | Kind::YesNo(_) | Kind::Name(_) => {}
            Kind::Negate(inner) | Kind::Percent(inner) => inner.each_decider(visit),
            Kind::Binary(_, left, right) => {
                left.each_decider(visit);
                right.each_decider(visit);
            }
            Kind::Call(name, arguments) => {
                match name.as_str() {
                    "IF" => arguments.iter().take(1).for_each(|test| test.each_name(visit)),
                    "SWITCH" | "AND" | "OR" => arguments.iter().for_each(|argument| argument.each_name(visit)),
                    _ => {}
                }
                arguments.iter().for_each(|argument| argument.each_decider(visit));
            }
        }
    }

    /// The same with a start in place of a name that is missing.
    pub(super) fn starting(&self, name: &str, start: &Node) -> Node {
        let again = |inner: &Node| inner.starting(name, start);
        let kind = match &self.kind {
            Kind::Name(found) if found == name => {
                return Node { at: self.at, kind: Kind::Call("COALESCE".into(), vec![self.clone(), start.clone()]) };
            }
            Kind::Number(_) | Kind::Text(_) | Kind::YesNo(_) | Kind::Name(_) => self.kind.clone(),
            Kind::Negate(inner) => Kind::Negate(Box::new(again(inner))),
            Kind::Percent(inner) => Kind::Percent(Box::new(again(inner))),
            Kind::Binary(mark, left, right) => Kind::Binary(mark, Box::new(again(left)), Box::new(again(right))),
            // A table and a column are no fields.
            Kind::Call(function, arguments) if function == "LOOKUP" => {
                let each = arguments.iter().enumerate();
                Kind::Call(
                    function.clone(),
                    each.map(|(place, one)| if place == 0 { again(one) } else { one.clone() }).collect(),
                )
            }
            Kind::Call(function, arguments) => Kind::Call(function.clone(), arguments.iter().map(again).collect()),
        };
        Node { at: self.at, kind }
    }

    /// Calls `visit` for every name that is multiplied or raised, with whatever stands around it.
    pub(super) fn each_multiplied(&self, visit: &mut impl FnMut(&str)) {
        match &self.kind {
            Kind::Number(_) | Kind::Text(_) | Kind::YesNo(_) | Kind::Name(_) => {}
            Kind::Negate(inner) | Kind::Percent(inner) => inner.each_multiplied(visit),
            Kind::Binary("*" | "^", left, right) => {
                left.each_name(visit);
                right.each_name(visit);
            }
            Kind::Binary(_, left, right) => {
                left.each_multiplied(visit);
                right.each_multiplied(visit);
            }
            // What is capped is bounded.
            Kind::Call(name, arguments) if name == "MIN" && arguments.len() > 1 => {}
            Kind::Call(_, arguments) => arguments.iter().for_each(|argument| argument.each_multiplied(visit)),
        }
    }

    pub(super) fn uses_table(&self, key: &str) -> bool {
        match &self.kind {
            Kind::Negate(inner) | Kind::Percent(inner) => inner.uses_table(key),
            Kind::Binary(_, left, right) => left.uses_table(key) || right.uses_table(key),
            Kind::Call(name, arguments) => {
                name == "LOOKUP"
                    && arguments.get(1).is_some_and(|table| matches!(&table.kind, Kind::Name(found) if found == key))
                    || arguments.iter().any(|argument| argument.uses_table(key))
            }
            _ => false,
        }
    }
}

pub(super) fn parse(tokens: &[Token], length: usize) -> Result<Node, FormulaError> {
    let mut parser = Parser { tokens, next: 0, length, depth: 0 };
    let node = parser.binary(0)?;
    match parser.peek() {
        None => Ok(node),
        Some(token) => Err(FormulaError {
            at: token.at,
            says: format!("expected an operator or the end, found {}", describe(&token.word)),
        }),
    }
}

fn describe(word: &Word) -> String {
    match word {
        Word::Number(number) => format!("the number {number}"),
        Word::Text(_) => "a text".into(),
        Word::Name(name) => format!("“{name}”"),
        Word::Mark(mark) => format!("“{mark}”"),
    }
}

struct Parser<'a> {
    tokens: &'a [Token],
    next: usize,
    length: usize,
    depth: usize,
}

const LEVELS: [&[&str]; 5] = [&["=", "<>", "<", "<=", ">", ">="], &["&"], &["+", "-"], &["*", "/"], &["^"]];

impl<'a> Parser<'a> {
    fn peek(&self) -> Option<&'a Token> {
        self.tokens.get(self.next)
    }

    fn mark(&mut self, marks: &[&'static str]) -> Option<(&'static str, usize)> {
        let token = self.peek()?;
        let Word::Mark(mark) = token.word else { return None };
        let found = marks.iter().find(|wanted| **wanted == mark)?;
        self.next += 1;
        Some((found, token.at))
    }

    fn deeper<T>(
        &mut self,
        at: usize,
        run: impl FnOnce(&mut Self) -> Result<T, FormulaError>,
    ) -> Result<T, FormulaError> {
        if self.depth >= DEPTH_LIMIT {
            return Err(FormulaError { at, says: format!("a formula nests at most {DEPTH_LIMIT} deep") });
        }
        self.depth += 1;
        let result = run(self);
        self.depth -= 1;
        result
    }

    fn binary(&mut self, level: usize) -> Result<Node, FormulaError> {
        let Some(marks) = LEVELS.get(level) else { return self.unary() };
        let mut left = self.binary(level + 1)?;
        let mut links = 0;
        while let Some((mark, at)) = self.mark(marks) {
            // A chain leans to the left, one level deeper for each link.
            links += 1;
            if self.depth + links > DEPTH_LIMIT * 4 {
                return Err(FormulaError { at, says: "this chain of operators is too long".into() });
            }
            let right = self.binary(level + 1)?;
            left = Node { at, kind: Kind::Binary(mark, Box::new(left), Box::new(right)) };
        }
        Ok(left)
    }

    fn unary(&mut self) -> Result<Node, FormulaError> {
        if let Some((mark, at)) = self.mark(&["-", "+"]) {
            let inner = self.deeper(at, Self::unary)?;
            return Ok(if mark == "-" { Node { at, kind: Kind::Negate(Box::new(inner)) } } else { inner });
        }
        let mut node = self.atom()?;
        while let Some((_, at)) = self.mark(&["%"]) {
            node = self.deeper(at, |_| Ok(Node { at, kind: Kind::Percent(Box::new(node)) }))?;
        }
        Ok(node)
    }

    fn atom(&mut self) -> Result<Node, FormulaError> {
        let Some(token) = self.peek() else {
            return Err(FormulaError {
                at: self.length,
                says: "expected a value: a number, a text between quotation marks, a field, or a function".into(),
            });
        };
        self.next += 1;
        let at = token.at;
        let kind = match &token.word {
            Word::Number(number) => Kind::Number(*number),
            Word::Text(text) => Kind::Text(text.clone()),
            Word::Mark("(") => {
                let inner = self.deeper(at, |parser| parser.binary(0))?;
                self.close(at)?;
                return Ok(inner);
            }
            Word::Mark(mark) => return Err(FormulaError { at, says: format!("expected a value, found “{mark}”") }),
            Word::Name(name) => {
                if self.mark(&["("]).is_some() {
                    Kind::Call(name.to_uppercase(), self.deeper(at, |parser| parser.arguments(at))?)
                } else {
                    match name.to_uppercase().as_str() {
                        "TRUE" | "YES" => Kind::YesNo(true),
                        "FALSE" | "NO" => Kind::YesNo(false),
                        _ => Kind::Name(name.clone()),
                    }
                }
            }
        };
        Ok(Node { at, kind })
    }

    fn arguments(&mut self, at: usize) -> Result<Vec<Node>, FormulaError> {
        let mut out = Vec::new();
        if self.mark(&[")"]).is_some() {
            return Ok(out);
        }
        loop {
            out.push(self.binary(0)?);
            if self.mark(&[",", ";"]).is_none() {
                self.close(at)?;
                return Ok(out);
            }
        }
    }

    fn close(&mut self, opened: usize) -> Result<(), FormulaError> {
        if self.mark(&[")"]).is_some() {
            return Ok(());
        }
        let at = self.peek().map_or(self.length, |token| token.at);
        Err(FormulaError { at, says: format!("expected “)” for what opens at character {opened}") })
    }
}
