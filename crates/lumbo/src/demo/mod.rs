//! The Winterlode demo: an invented workspace with its people, queues, dialogues, a year of closed leads and a week of
//! open ones. All leads come from conversations that are run through the engine and filed like any other; what
//! enquirers of the past say is drawn from a stated model.

mod model;
mod past;
mod places;

use anyhow::{Context as _, Result, anyhow};
use jiff::{Timestamp, ToSpan};
use lumbo_dialogue::talk::{Context, ProspectMessage, script};
use lumbo_store::{Keeping, NewConversation, NewPerson, NewQueue, Role, Store, TookPlace};
use rand::rngs::StdRng;
use rand::{Rng, RngCore, SeedableRng};
use serde::Deserialize;
use uuid::Uuid;

const DIALOGUE: &str = include_str!("../../../../demo/storage-enquiry.json");
const CALL_BACK: &str = include_str!("../../../../demo/callback.json");
const PAST: &str = include_str!("../../../../demo/past-conversations.json");

/// What everybody of the demo signs in with.
pub const PASSWORD: &str = "keep it cold";

/// The demo keeps its year: nothing of it is erased while somebody looks at it.
const KEEPING: Keeping = Keeping { unreached_days: 730, unfinished_days: 730, lead_months: 60 };

const PEOPLE: [(&str, &str, Role); 6] = [
    ("edda@winterlode.example", "Edda Quill", Role::Author),
    ("maren@winterlode.example", "Maren Holt", Role::Rep),
    ("tobias@winterlode.example", "Tobias Rell", Role::Rep),
    ("priya@winterlode.example", "Priya Nand", Role::RepLead),
    ("joss@winterlode.example", "Joss Calder", Role::Rep),
    ("admin@winterlode.example", "Solveig Aune", Role::Administrator),
];

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct Past {
    /// How long ago it began, minutes.
    minutes_ago: i64,
    page: String,
    replies: Vec<String>,
}

/// Loads the demo where it is not there yet, and says what it did.
pub async fn load(store: &Store) -> Result<String> {
    if store.workspace("winterlode").await?.is_some() {
        return Ok("The Winterlode demo is loaded already.".into());
    }
    let hash = lumbo_server::hash_password(PASSWORD).map_err(|error| anyhow!(error))?;
    let people: Vec<NewPerson<'_>> =
        PEOPLE.iter().map(|(email, name, role)| NewPerson { email, name, role: *role, password_hash: &hash }).collect();
    let workspace = store
        .create_workspace(
            "winterlode",
            "Winterlode",
            &people,
            &[
                NewQueue {
                    key: "aldermoor",
                    name: "Aldermoor queue",
                    members: &[("maren@winterlode.example", 2), ("tobias@winterlode.example", 1)],
                    fixed_owner: None,
                },
                NewQueue {
                    key: "saltwick",
                    name: "Saltwick queue",
                    members: &[("joss@winterlode.example", 1), ("maren@winterlode.example", 1)],
                    fixed_owner: None,
                },
                NewQueue {
                    key: "senior",
                    name: "Senior queue",
                    members: &[("maren@winterlode.example", 1), ("tobias@winterlode.example", 1)],
                    fixed_owner: None,
                },
                NewQueue {
                    key: "tarn_quay",
                    name: "Tarn Quay queue",
                    members: &[("priya@winterlode.example", 1)],
                    fixed_owner: Some("priya@winterlode.example"),
                },
            ],
        )
        .await?;
    let edda = store.person_by_email("edda@winterlode.example").await?.map(|person| person.id);
    let dialogue = lumbo_dialogue::file::load(DIALOGUE).map_err(|error| anyhow!("{error}"))?;
    let id = store.create_dialogue(workspace, edda, &dialogue).await?;
    store
        .release(workspace, id, edda, 1, "First release: storage, with prices before names.")
        .await
        .context("the demo's dialogue cannot be released")?;
    let call_back = lumbo_dialogue::file::load(CALL_BACK).map_err(|error| anyhow!("{error}"))?;
    let other = store.create_dialogue(workspace, edda, &call_back).await?;
    store
        .release(workspace, other, edda, 1, "First release: asked in one sentence, read back.")
        .await
        .context("the demo's second dialogue cannot be released")?;
    let placed = places::place(store, workspace, id, other).await?;
    let now = Timestamp::now();
    let mut random = StdRng::seed_from_u64(431);
    let visits = past::past(&mut random, now);
    let mut count = visits.len();
    for visit in &visits {
        let (mut at, mut inputs) = (visit.at, Vec::new());
        for (index, reply) in visit.replies.iter().enumerate() {
            at = at.checked_add(i64::from(random.random_range(5_u32..40)).seconds())?;
            inputs.push((message(reply, index)?, at));
        }
        let became = visit.became.iter().map(|(change, after)| (change.clone(), at + *after)).collect();
        put(store, &placed, visit.context.clone(), visit.at, inputs, became, random.next_u64() >> 12).await?;
    }
    let recent: Vec<Past> = serde_json::from_str(PAST)?;
    count += recent.len();
    let mut random = StdRng::seed_from_u64(7);
    for one in recent {
        let conversation = talk(store, &placed, &one, now, &mut random).await?;
        // Who left before the end, and can be reached, has been silent for long enough.
        store.file_unfinished(workspace, conversation).await?;
    }
    store.begin_keeping(workspace, KEEPING).await?;
    Ok(format!("The Winterlode demo is loaded: {} people, 2 dialogues, {count} past conversations.", PEOPLE.len()))
}

/// A line of a past conversation as an input.
fn message(reply: &str, index: usize) -> Result<ProspectMessage> {
    let script::Line::Prospect(body) = script::line(reply, index + 1).map_err(|error| anyhow!("{error}"))? else {
        return Err(anyhow!("“{reply}” is no reply"));
    };
    Ok(ProspectMessage { id: format!("line-{index}"), expects: u32::try_from(index + 1)?, body })
}

async fn put(
    store: &Store,
    placed: &places::Places,
    context: Context,
    began: Timestamp,
    inputs: Vec<(ProspectMessage, Timestamp)>,
    became: Vec<(lumbo_store::OutcomeChange, Timestamp)>,
    seed: u64,
) -> Result<Uuid> {
    let mut token = [0_u8; 32];
    rand::rng().fill_bytes(&mut token);
    let slug = "storage-enquiry";
    let new = NewConversation {
        slug,
        token_hash: &token,
        input_id: "start",
        placement: placed.of(context.page.as_deref()),
        seed,
        context,
        known: None,
        by_test_link: false,
        signed_in_to: None,
        doubt: None,
        now: began,
    };
    store.put_past(TookPlace { new, inputs, became }).await.with_context(|| format!("a conversation of {began}"))
}

async fn talk(
    store: &Store,
    placed: &places::Places,
    past: &Past,
    now: Timestamp,
    random: &mut StdRng,
) -> Result<Uuid> {
    let began = now.checked_sub(past.minutes_ago.minutes())?;
    let context = Context {
        page: Some(past.page.clone()),
        device: Some(if random.random_bool(0.5) { "phone" } else { "computer" }.into()),
        ..Context::default()
    };
    let seed = random.next_u64() >> 12;
    let (mut at, mut inputs) = (began, Vec::new());
    for (index, reply) in past.replies.iter().enumerate() {
        at = at.checked_add(i64::from(random.random_range(6_u32..25)).seconds())?;
        inputs.push((message(reply, index)?, at));
    }
    put(store, placed, context, began, inputs, Vec::new(), seed).await
}
