//! The pages: what came in, newest first, and the faults.

use crate::faults::Faults;
use crate::got::{Got, Kept};

const STYLE: &str = "body{font:15px/1.5 system-ui,sans-serif;margin:0;background:#f2f4f7;color:#1c2430}\
main{max-width:56rem;margin:0 auto;padding:1.5rem}h1{font-size:1.25rem;margin:0 0 .25rem}p{margin:.25rem 0}\
nav a{margin-right:1rem}article{background:#fff;border:1px solid #d5dbe3;border-radius:6px;padding:.75rem 1rem;\
margin:.75rem 0}pre{overflow:auto;white-space:pre-wrap;word-break:break-word;font-size:12.5px;margin:.5rem 0 0}\
form{display:flex;gap:.5rem;flex-wrap:wrap;align-items:end;margin:.5rem 0}label{font-size:12.5px}\
input,select{display:block;font:inherit;padding:.2rem .4rem;max-width:100%}.bad{color:#a02c1c}.good{color:#1d6b3a}\
small{color:#55606e}h2{font-size:1rem;margin:1.25rem 0 .25rem}dl{display:grid;\
grid-template-columns:10rem 1fr;gap:.1rem .75rem;margin:.4rem 0 0;font-size:13.5px}dt{color:#55606e}dd{margin:0;white-space:pre-wrap;overflow-wrap:anywhere}\
.wide{overflow:auto}table{border-collapse:collapse;background:#fff;font-size:13.5px}td,th{text-align:left;\
vertical-align:top;padding:.3rem .6rem;border:1px solid #d5dbe3;white-space:pre-wrap}";

pub(crate) fn escaped(text: &str) -> String {
    text.replace('&', "&amp;").replace('<', "&lt;").replace('>', "&gt;").replace('"', "&quot;").replace('\'', "&#39;")
}

pub(crate) fn frame(title: &str, lead: &str, content: &str) -> String {
    format!(
        "<!doctype html><html lang=en><meta charset=utf-8><meta name=viewport content='width=device-width'>\
         <title>{title} (stand-in)</title><style>{STYLE}</style><main><nav aria-label=Stand-ins>\
         <a href=/customers>Customer system</a><a href=/sheet>Sheet</a><a href=/mailbox>Mailbox</a>\
         <a href=/receiver>Receiver</a><a href=/chat>Chat room</a><a href=/id>Sign-in provider</a></nav><h1>{title}</h1><p><small>{lead}</small></p>\
         {content}</main></html>"
    )
}

/// What goes wrong, to be switched on; `after` where what is asked can be done and its answer lost.
pub(crate) fn fault_form(action: &str, faults: &Faults, after: bool) -> String {
    let lost = if after {
        let ticked = if faults.after { " checked" } else { "" };
        format!("<label>Do it, lose the answer<input name=after type=checkbox{ticked}></label>")
    } else {
        String::new()
    };
    format!(
        "<form method=post action={action}><label>Fail the next<input name=next type=number min=0 max=9999 value={}>\
         </label><label>with code<input name=code type=number min=0 max=599 value={}></label><label>Wait, ms\
         <input name=slow_ms type=number min=0 max=60000 value={}></label>{lost}<button>Switch on</button></form>",
        faults.next, faults.code, faults.slow_ms
    )
}

/// The receiver of webhooks.
pub fn receiver(kept: &Kept) -> String {
    let forms = format!(
        "<form method=post action=/secret><label>Secret it verifies with\
         <input name=secret size=48 autocomplete=off value=\"{}\"></label><button>Keep</button></form>{}\
         <form method=post action=/clear><button>Forget everything</button></form>",
        escaped(&kept.secret),
        fault_form("/faults", &kept.faults, false)
    );
    let rows: String = kept.got.iter().rev().take(100).map(row).collect();
    let rows = if rows.is_empty() { "<p>Nothing came in yet.</p>".to_owned() } else { rows };
    let lead = "A simulated outside service: it keeps what Lumbo sends, and answers as you say. Send to \
        /receive/NAME on this address.";
    frame("Receiver of webhooks", lead, &format!("{forms}{rows}"))
}

fn row(got: &Got) -> String {
    let signed = match got.signed {
        Some(true) => "<span class=good>signature good</span>",
        Some(false) => "<span class=bad>signature wrong</span>",
        None => "<small>not verified: no secret here</small>",
    };
    let pretty = serde_json::from_str::<serde_json::Value>(&got.body)
        .and_then(|json| serde_json::to_string_pretty(&json))
        .unwrap_or_else(|_| got.body.clone());
    let answered =
        if got.answered == 200 { String::new() } else { format!(" · <b class=bad>answered {}</b>", got.answered) };
    format!(
        "<article><b>{}</b> <small>{} · {}</small> · {signed}{answered}<details><summary>What it held</summary>\
         <pre>{}</pre></details></article>",
        escaped(&got.place),
        got.at.strftime("%F %T UTC"),
        escaped(&got.id),
        escaped(&pretty)
    )
}

/// The chat room.
pub fn chat(kept: &Kept) -> String {
    let text = |got: &Got| {
        let json = serde_json::from_str::<serde_json::Value>(&got.body).ok()?;
        Some(json.get("text")?.as_str()?.to_owned())
    };
    let rows: String = kept
        .got
        .iter()
        .rev()
        .filter_map(|got| Some((got, text(got)?)))
        .take(100)
        .map(|(got, text)| {
            format!("<article><small>{}</small><pre>{}</pre></article>", got.at.strftime("%F %T UTC"), escaped(&text))
        })
        .collect();
    let rows = if rows.is_empty() { "<p>No alert yet.</p>".to_owned() } else { rows };
    frame("Chat room", "A simulated chat room: alerts about leads arrive here.", &rows)
}

#[cfg(test)]
#[allow(clippy::unwrap_used, reason = "tests")]
mod tests {
    use super::*;

    #[test]
    fn what_came_in_is_shown_as_text_and_never_as_markup() {
        let got = Got {
            at: "2026-11-24T10:00:00Z".parse().unwrap(),
            place: "<script>".into(),
            id: "msg_1".into(),
            signed: Some(false),
            body: r#"{"text":"<img src=x onerror=alert(1)>"}"#.into(),
            answered: 503,
        };
        let kept = Kept { got: vec![got], ..Kept::default() };
        for page in [receiver(&kept), chat(&kept)] {
            assert!(!page.contains("<img") && !page.contains("<script>"), "{page}");
        }
        assert!(receiver(&kept).contains("answered 503") && receiver(&kept).contains("signature wrong"));
    }
}
