//! Beginning a workspace, inviting somebody and giving another password from the command line.
#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic, reason = "helpers of tests are tests")]

use std::io::Write;
use std::process::{Command, Stdio};

use lumbo_store::{NewAccount, Store, Taking};
use sha2::{Digest, Sha256};
use sqlx::{Connection, Executor, PgConnection};
use uuid::Uuid;

async fn database() -> String {
    let server = std::env::var("LUMBO_TEST_DATABASE_SERVER")
        .expect("set LUMBO_TEST_DATABASE_SERVER to a PostgreSQL server, or run ./test, which does");
    let name = format!("cli_{}", Uuid::new_v4().simple());
    let mut admin = PgConnection::connect(&format!("{server}/postgres")).await.unwrap();
    admin.execute(sqlx::AssertSqlSafe(format!("create database {name}"))).await.unwrap();
    format!("{server}/{name}")
}

/// Runs the binary; its exit code, and what it said on both sides.
fn run(database: &str, args: &[&str], input: &str) -> (i32, String) {
    let mut child = Command::new(env!("CARGO_BIN_EXE_lumbo"))
        .args(args)
        .env("DATABASE_URL", database)
        .stdin(Stdio::piped())
        .stdout(Stdio::piped())
        .stderr(Stdio::piped())
        .spawn()
        .unwrap();
    child.stdin.take().unwrap().write_all(input.as_bytes()).unwrap();
    let done = child.wait_with_output().unwrap();
    let said = String::from_utf8(done.stdout).unwrap() + &String::from_utf8(done.stderr).unwrap();
    (done.status.code().unwrap(), said)
}

/// What the link that was printed holds, as it is looked for.
fn hash(said: &str) -> Vec<u8> {
    let (_, rest) = said.split_once("/join#").expect(said);
    Sha256::digest(rest.split_whitespace().next().unwrap().as_bytes()).to_vec()
}

#[tokio::test]
async fn a_workspace_its_people_and_a_password_come_from_the_command_line() {
    let database = database().await;
    let new = ["workspace", "new", "Heron & Sons", "--email", "ana@heron.example", "--zone", "Europe/Berlin"];
    let (code, said) = run(&database, &new, "");
    assert_eq!(code, 0, "{said}");
    let store = Store::connect(&database, 2).await.unwrap();
    let seen = store.invitation(&hash(&said)).await.unwrap();
    assert_eq!((seen.workspace.as_str(), seen.role.as_str()), ("Heron & Sons", "administrator"));
    let ana = NewAccount { email: "ana@heron.example", name: "Ana Ruiz", zone: None, password_hash: "-" };
    let person = store.take_invitation(&hash(&said), &Taking::New(ana)).await.unwrap();
    assert_eq!(store.workspace_settings(person.workspace_id).await.unwrap().zone, "Europe/Berlin");

    let (code, said) = run(&database, &["person", "new", "heron-sons", "nia@heron.example", "--role", "rep"], "");
    assert_eq!((code, store.invitation(&hash(&said)).await.unwrap().role.as_str()), (0, "rep"), "{said}");
    let password = ["person", "password", "ana@heron.example"];
    let (code, said) = run(&database, &password, "four words in snow\n");
    assert_eq!(code, 0, "{said}");
    let kept = store.account(person.account).await.unwrap().password_hash;
    assert!(kept.starts_with("$argon2id$"), "{kept}");

    // Wrong input: one line that says why, and nothing is changed.
    for (args, input, says) in [
        (&["workspace", "new", " ", "--email", "a@b.example"][..], "", "a workspace needs a name"),
        (&["workspace", "new", "X", "--email", "nonsense"], "", "not an e-mail address"),
        (&["workspace", "new", "X", "--email", "a@b.example", "--zone", "Mars"], "", "is no time zone"),
        (&["person", "new", "nowhere", "a@b.example"], "", "there is no workspace"),
        (&["person", "new", "heron-sons", "ana@heron.example"], "", "in this workspace already"),
        (&["person", "new", "heron-sons", "a@b.example", "--role", "king"], "", "is no role"),
        (&["person", "password", "nobody@heron.example"], "four words in snow\n", "nobody signs in with"),
        (&password, "password123\n", "tried first"),
    ] {
        let (code, said) = run(&database, args, input);
        assert!(code == 2 && said.contains(says), "{args:?}: {code}, {said}");
    }
    assert_eq!(store.account(person.account).await.unwrap().password_hash, kept);
}
