//! A fresh PostgreSQL database for each test, with two workspaces: everything is done in the first, nothing of it may
//! be seen from the second.
#![allow(
    clippy::unwrap_used,
    clippy::expect_used,
    clippy::panic,
    dead_code,
    reason = "helpers of tests are tests; not every suite uses all of them"
)]

use jiff::Timestamp;
use lumbo_dialogue::file::Dialogue;
use lumbo_dialogue::talk::{Context, ProspectInput, ProspectMessage};
use lumbo_store::{
    Clock, LeadFilter, LeadQuery, LeadRow, NewConversation, NewPerson, NewQueue, PLAIN, Person, Role, Store,
    StoreError, TakeError, Taken,
};
use sqlx::{Connection, Executor, PgConnection};
use uuid::Uuid;

/// Monday, 23 November 2026, 9:00 UTC.
pub fn now() -> Timestamp {
    "2026-11-23T09:00:00Z".parse().unwrap()
}

/// One workspace with its people and the demo's dialogue on air.
pub struct Home {
    pub workspace: Uuid,
    pub dialogue: Uuid,
    pub slug: String,
    pub author: Person,
    pub reps: [Person; 2],
}

pub struct Fixture {
    pub store: Store,
    /// The store's clock; it stands at [`now`] until a test moves it.
    pub clock: Clock,
    pub url: String,
    pub home: Home,
    pub other: Home,
}

pub fn demo(id: &str) -> Dialogue {
    let mut dialogue = lumbo_dialogue::file::load(include_str!("../../../../../demo/storage-enquiry.json")).unwrap();
    id.clone_into(&mut dialogue.id);
    dialogue.settings.idle_minutes = 30;
    dialogue
}

/// Connects; on a machine that is busy with other tests the database may need another moment.
pub async fn connected(url: &str, connections: u32, clock: Clock) -> Store {
    for _ in 0..40 {
        match Store::connect_at(url, connections, clock.clone()).await {
            Err(lumbo_store::StoreError::Away(_)) => tokio::time::sleep(std::time::Duration::from_millis(250)).await,
            other => return other.unwrap(),
        }
    }
    panic!("the database did not answer");
}

impl Fixture {
    /// Another server on the same database, with nothing in its memory.
    pub async fn another(&self) -> Store {
        connected(&self.url, 2, self.clock.clone()).await
    }

    pub async fn new() -> Self {
        let server = std::env::var("LUMBO_TEST_DATABASE_SERVER")
            .expect("set LUMBO_TEST_DATABASE_SERVER to a PostgreSQL server, or run ./test, which does");
        let name = format!("store_{}", Uuid::new_v4().simple());
        let mut admin = PgConnection::connect(&format!("{server}/postgres")).await.unwrap();
        admin.execute(sqlx::AssertSqlSafe(format!("create database {name}"))).await.unwrap();
        let url = format!("{server}/{name}");
        let clock = Clock::standing_at(now());
        let store = connected(&url, 8, clock.clone()).await;
        let home = Self::home(&store, "home").await;
        let other = Self::home(&store, "other").await;
        Self { store, clock, url, home, other }
    }

    async fn home(store: &Store, slug: &str) -> Home {
        let email = |name: &str| format!("{name}@{slug}.example");
        let emails = [email("author"), email("ina"), email("udo")];
        let roles = [Role::Author, Role::Rep, Role::Rep];
        let people: Vec<NewPerson<'_>> = emails
            .iter()
            .zip(roles)
            .map(|(email, role)| NewPerson { email, name: email.split('@').next().unwrap(), role, password_hash: "-" })
            .collect();
        let members = [(emails[1].as_str(), 1), (emails[2].as_str(), 1)];
        let queues = ["aldermoor", "saltwick", "senior"].map(|key| NewQueue {
            key,
            name: key,
            members: &members,
            fixed_owner: None,
        });
        let workspace = store.create_workspace(slug, slug, &people, &queues).await.unwrap();
        let dialogue = store.create_dialogue(workspace, None, &demo(&format!("storage-{slug}"))).await.unwrap();
        store.release(workspace, dialogue, None, 1, "first").await.unwrap();
        let mut found = Vec::new();
        for email in &emails {
            found.push(store.person_by_email(email).await.unwrap().unwrap());
        }
        let [author, ina, udo] = <[Person; 3]>::try_from(found).unwrap();
        let slug = store.draft(workspace, dialogue).await.unwrap().slug;
        Home { workspace, dialogue, slug, author, reps: [ina, udo] }
    }

    pub async fn start(&self, slug: &str, token: &[u8]) -> Taken {
        let context = Context::default();
        let started = self
            .store
            .start_conversation(NewConversation {
                slug,
                token_hash: token,
                input_id: "start",
                placement: None,
                seed: 1,
                context,
                known: None,
                by_test_link: false,
                signed_in_to: None,
                doubt: None,
                now: self.clock.now(),
            })
            .await
            .unwrap();
        Taken { view: started.view, repeated: false, filed: None }
    }

    /// Talks to the home's dialogue with typed replies; gives what the last one came to.
    pub async fn talk(&self, token: &[u8], replies: &[&str]) -> Taken {
        self.talk_at(&self.home.slug, token, replies).await
    }

    /// The same at the address of another dialogue.
    pub async fn talk_at(&self, slug: &str, token: &[u8], replies: &[&str]) -> Taken {
        let mut last = self.start(slug, token).await;
        for (index, text) in replies.iter().enumerate() {
            let body = if *text == ">skip" {
                ProspectInput::Skip {}
            } else {
                ProspectInput::Reply { text: (*text).to_owned() }
            };
            let input = ProspectMessage { id: format!("i{index}"), expects: last.view.sequence, body };
            last = self.store.take_input(token, input, self.clock.now()).await.unwrap();
        }
        last
    }

    /// The state of the conversation that a token opens, as it is kept.
    pub async fn state(&self, token: &[u8]) -> serde_json::Value {
        let mut db = PgConnection::connect(&self.url).await.unwrap();
        sqlx::query_scalar("select state from conversations where token_hash = $1")
            .bind(token)
            .fetch_one(&mut db)
            .await
            .unwrap()
    }

    /// How many rows of a table the home workspace has.
    pub async fn count(&self, table: &str) -> i64 {
        let mut db = PgConnection::connect(&self.url).await.unwrap();
        let query = sqlx::AssertSqlSafe(format!("select count(*) from {table} where workspace_id = $1"));
        sqlx::query_scalar(query).bind(self.home.workspace).fetch_one(&mut db).await.unwrap()
    }

    /// A conversation of somebody at a firm that ends with a lead in the highest band.
    pub async fn lead_of(&self, token: &[u8], name: &str, company: &str, email: &str) -> Taken {
        self.talk(token, &["Blast freezing", "frozen", "yes", "250", "owner", name, company, email, ">skip"]).await
    }

    /// A conversation that ends with a lead.
    pub async fn lead(&self, token: &[u8]) -> Taken {
        self.talk(
            token,
            &[
                "Blast freezing",
                "frozen",
                "yes",
                "250",
                "owner",
                "Maud Ekström",
                "Ekström Berries",
                "maud@ekstromberries.example",
                "020 7946 0588",
            ],
        )
        .await
    }

    pub async fn leads(&self, person: &Person) -> Vec<LeadRow> {
        self.leads_by(person, LeadFilter::All, "").await
    }

    pub async fn leads_by(&self, person: &Person, filter: LeadFilter, search: &str) -> Vec<LeadRow> {
        self.store.leads(person, &LeadQuery { filter, search, look: &PLAIN, after: None }).await.unwrap().leads
    }
}

/// A conversation to its end, as a page holds it that tries again where no connection is free.
pub async fn patient(store: &Store, slug: &str, token: &[u8], at: Timestamp, replies: &[String]) {
    let new = NewConversation {
        slug,
        token_hash: token,
        input_id: "start",
        placement: None,
        seed: 1,
        context: Context::default(),
        known: None,
        by_test_link: false,
        signed_in_to: None,
        doubt: None,
        now: at,
    };
    let again = |error: &TakeError| matches!(error, TakeError::Store(StoreError::Away(_)));
    let mut sequence = loop {
        match store.start_conversation(new.clone()).await {
            Err(error) if again(&error) => {}
            taken => break taken.unwrap().view.sequence,
        }
    };
    for reply in replies {
        let body = if reply == ">skip" { ProspectInput::Skip {} } else { ProspectInput::Reply { text: reply.clone() } };
        let message = ProspectMessage { id: format!("i{sequence}"), expects: sequence, body };
        sequence = loop {
            match store.take_input(token, message.clone(), at).await {
                Err(error) if again(&error) => {}
                taken => break taken.unwrap().view.sequence,
            }
        };
    }
}
