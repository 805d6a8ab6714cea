//! Contacts and companies as people look at them and change them, and what erasing leaves of them.
//!
//! | file | what it holds |
//! |---|---|
//! | `contacts` | the list of contacts, one contact with everything, changes by hand |
//! | `companies` | the same for companies, with their standing and who looks after them |
//! | `values` | values with where they came from |
//! | `erase` | a person's data blanked everywhere |
//! | `retain` | what has had its time, erased by a job |
//! | `merge` | contacts that may be one person, made one, and two again |
//! | `files` | companies and contacts from files, and undoing a file |
//! | `permissions` | what contacts permitted, and withdrew |
//! | `reach` | how contacts want to be reached |
//! | `export` | everything that is held on one contact |

mod companies;
mod contacts;
mod erase;
mod export;
mod files;
mod merge;
mod permissions;
mod reach;
mod retain;
mod values;

pub use companies::{CompanyChange, CompanyContact, CompanyDetail, CompanyPage, CompanyRow};
pub use contacts::{ContactChange, ContactDetail, ContactGiven, ContactLead, ContactPage, ContactRow};
pub use erase::Erased;
pub use export::{
    ContactExport, ExportedConversation, ExportedGiven, ExportedLead, ExportedMail, ExportedPermission, ExportedStep,
    ExportedTask, ExportedValue,
};
pub use files::{BadFileRow, Becomes, FileRow, FileUndone, NewRecordFile, RecordFileRow, TakenRow};
pub use merge::{AlikeRow, MergeLine, MergePreview, MergeRow};
pub use permissions::{PermissionChange, PermissionRow};
pub(crate) use permissions::{keep_said, move_words};
pub use reach::Reach;
pub use retain::Keeping;
pub(crate) use retain::begin as begin_retention;
pub use values::ValueRow;

/// Most rows of a page of a list.
const PAGE: i64 = 100;
/// Longest text that is searched for, characters.
const SEARCH_LIMIT: usize = 200;

/// A text as a pattern of ILIKE that holds it; nothing where there is no text.
fn holding(search: &str) -> Option<String> {
    let text: String = search.trim().chars().take(SEARCH_LIMIT).collect();
    (!text.is_empty()).then(|| format!("%{}%", text.replace('\\', "\\\\").replace('%', "\\%").replace('_', "\\_")))
}

/// A text as a pattern of LIKE that begins with it, in small letters.
fn begins(text: &str) -> String {
    let text: String = text.chars().take(SEARCH_LIMIT).collect::<String>().to_lowercase();
    format!("{}%", text.replace('\\', "\\\\").replace('%', "\\%").replace('_', "\\_"))
}

/// Where a page of a list by name ended: the name it is sorted by, and the row's id.
fn place(after: Option<&str>) -> Result<(String, uuid::Uuid), crate::StoreError> {
    let Some(text) = after else { return Ok((String::new(), uuid::Uuid::nil())) };
    let parsed = text.split_once('.').and_then(|(id, name)| Some((name.to_owned(), id.parse().ok()?)));
    parsed.ok_or(crate::StoreError::NotFound("page of this list"))
}

/// A place as the next page is asked for by it.
fn place_text(sorted: &str, id: uuid::Uuid) -> String {
    format!("{}.{sorted}", id.simple())
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_place_in_a_list_by_name_is_what_its_text_says() {
        let id = uuid::Uuid::now_v7();
        for name in ["", "ada", "j. r. hartley", "a.b.c"] {
            assert_eq!(place(Some(&place_text(name, id))).ok(), Some((name.to_owned(), id)));
        }
        assert!(place(Some("nonsense")).is_err() && place(Some("x.y")).is_err());
        assert_eq!(place(None).ok(), Some((String::new(), uuid::Uuid::nil())));
    }

    #[test]
    fn what_is_looked_for_stands_for_itself() {
        assert_eq!(holding(" 50%_a\\ ").as_deref(), Some("%50\\%\\_a\\\\%"));
        assert_eq!(holding("  "), None);
    }
}
