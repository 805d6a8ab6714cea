//! `lumbo check`.

use std::fmt::Write;
use std::path::PathBuf;

use anyhow::Context;
use lumbo_checks::{Finding, Severity, check_fully};
use serde_json::json;

use crate::{Done, commands::print, input};

/// Options.
#[derive(clap::Args)]
pub struct Options {
    /// A dialogue file, or - for standard input.
    file: PathBuf,
    /// Write one JSON document.
    #[arg(long)]
    json: bool,
    /// Also write the findings as JUnit XML to this file.
    #[arg(long)]
    junit: Option<PathBuf>,
}

/// Checks a file; exit code 1 where a finding is an error.
pub fn run(options: &Options) -> Done {
    let dialogue = input::dialogue(&options.file)?;
    if !dialogue.rehearsals.is_empty() || !dialogue.promises.is_empty() {
        eprintln!("note: saved rehearsals and promises are run by a later version");
    }
    let findings = check_fully(&dialogue, jiff::Timestamp::now());
    if let Some(path) = &options.junit {
        std::fs::write(path, junit(&dialogue.title, &findings))
            .with_context(|| format!("{} cannot be written", path.display()))?;
    }
    if options.json {
        print(&json!({ "findings": findings }))?;
    } else {
        for finding in &findings {
            println!("{}: {}: {} [{}]", severity(finding.severity), finding.at, finding.says, finding.key);
            if let Some(mend) = &finding.mend {
                println!("    {mend}");
            }
            if let Some(way) = &finding.way {
                println!("    shown by: {}", way.replies.join(" / "));
            }
        }
        println!("{} finding{} in {}", findings.len(), if findings.len() == 1 { "" } else { "s" }, dialogue.title);
    }
    Ok(findings.iter().any(|finding| finding.severity == Severity::Error))
}

fn severity(severity: Severity) -> &'static str {
    match severity {
        Severity::Error => "error",
        Severity::Warning => "warning",
        Severity::Hint => "hint",
    }
}

fn escape(text: &str) -> String {
    let plain: String = text.chars().filter(|c| !c.is_control() || *c == '\n').collect();
    plain.replace('&', "&amp;").replace('<', "&lt;").replace('>', "&gt;").replace('"', "&quot;")
}

/// Findings as JUnit XML: one case each; errors are failures.
fn junit(title: &str, findings: &[Finding]) -> String {
    let failures = findings.iter().filter(|finding| finding.severity == Severity::Error).count();
    let mut out = format!(
        "<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n<testsuite name=\"{}\" tests=\"{}\" failures=\"{failures}\">\n",
        escape(title),
        findings.len().max(1)
    );
    if findings.is_empty() {
        out.push_str("  <testcase name=\"no finding\"/>\n");
    }
    for finding in findings {
        let (key, at, says) = (escape(&finding.key), escape(&finding.at), escape(&finding.says));
        let inside = if finding.severity == Severity::Error {
            format!("<failure message=\"{says}\"/>")
        } else {
            format!("<system-out>{says}</system-out>")
        };
        let _ = writeln!(out, "  <testcase name=\"{key} at {at}\">{inside}</testcase>");
    }
    out.push_str("</testsuite>\n");
    out
}
