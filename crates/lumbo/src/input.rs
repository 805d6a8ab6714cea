//! Lines of standard input and files, as the command line reads them.

use std::io::Read;
use std::path::Path;

use anyhow::{Context, Result, anyhow};
use lumbo_dialogue::file::{Dialogue, load};
use lumbo_dialogue::plan::Plan;

/// Reads a file, or standard input where the path is `-`.
pub fn text(path: &Path) -> Result<String> {
    let mut bytes = Vec::new();
    if path == Path::new("-") {
        std::io::stdin().read_to_end(&mut bytes)?;
    } else {
        bytes = std::fs::read(path).with_context(|| format!("{} cannot be read", path.display()))?;
    }
    String::from_utf8(bytes).map_err(|error| {
        let line =
            error.as_bytes()[..error.utf8_error().valid_up_to()].iter().filter(|byte| **byte == b'\n').count() + 1;
        anyhow!("line {line} is not UTF-8")
    })
}

/// Splits text into lines without their endings; a line that is one whole JSON string is decoded.
pub fn lines(text: &str) -> Vec<String> {
    let body = text.strip_suffix('\n').unwrap_or(text);
    if text.is_empty() {
        return Vec::new();
    }
    body.split('\n')
        .map(|line| line.strip_suffix('\r').unwrap_or(line))
        .map(|line| {
            if line.starts_with('"') {
                serde_json::from_str(line).unwrap_or_else(|_| line.to_owned())
            } else {
                line.to_owned()
            }
        })
        .collect()
}

/// Reads JSON from a path, or from the argument itself when it begins with a brace.
pub fn json(argument: &str) -> Result<serde_json::Value> {
    let text = if argument.trim_start().starts_with('{') { argument.to_owned() } else { text(Path::new(argument))? };
    serde_json::from_str(&text).with_context(|| "this is not JSON".to_owned())
}

/// Reads a dialogue file.
pub fn dialogue(path: &Path) -> Result<Dialogue> {
    load(&text(path)?).map_err(|error| anyhow!("{}: {error}", path.display()))
}

/// Reads a dialogue file that can be run.
pub fn plan(path: &Path) -> Result<Plan> {
    Ok(Plan::new(&dialogue(path)?).0)
}

#[cfg(test)]
mod tests {
    use super::lines;

    #[test]
    fn lines_are_taken_as_they_are_and_json_strings_are_decoded() {
        assert_eq!(lines("a\r\n\n b \n"), ["a", "", " b "]);
        assert_eq!(lines("\"two\\nlines\"\n\"open\n"), ["two\nlines", "\"open"]);
        assert!(lines("").is_empty());
        assert_eq!(lines("\n"), [""]);
    }
}
