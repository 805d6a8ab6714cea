//! How far a window has heard: a number for each of its topics, as the id of an event.

use lumbo_store::{Store, StoreError, Topic};
use uuid::Uuid;

/// The number reached in each topic.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(super) struct Cursor(Vec<(Topic, i64)>);

impl Cursor {
    /// The newest numbers.
    pub(super) async fn now(store: &Store, workspace: Uuid, topics: &[Topic]) -> Result<Self, StoreError> {
        let mut at = Vec::with_capacity(topics.len());
        for topic in topics {
            at.push((*topic, store.stream_at(workspace, *topic).await?));
        }
        Ok(Self(at))
    }

    /// Reads an id that an event carried; nothing where it is not one for these topics.
    pub(super) fn parse(text: &str, topics: &[Topic]) -> Option<Self> {
        let numbers: Vec<i64> =
            text.split('-').map(|number| number.parse().ok().filter(|number| *number >= 0)).collect::<Option<_>>()?;
        (numbers.len() == topics.len()).then(|| Self(topics.iter().copied().zip(numbers).collect()))
    }

    /// As the id of an event: the numbers in the order of the topics.
    pub(super) fn text(&self) -> String {
        self.0.iter().map(|(_, number)| number.to_string()).collect::<Vec<_>>().join("-")
    }

    pub(super) fn topics(&self) -> &[(Topic, i64)] {
        &self.0
    }

    pub(super) fn reach(&mut self, place: usize, number: i64) {
        if let Some((_, at)) = self.0.get_mut(place) {
            *at = number;
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn an_id_is_read_back_for_the_same_topics_only() {
        let topics = [Topic::Leads, Topic::Draft(Uuid::from_u128(1))];
        let cursor = Cursor(vec![(topics[0], 7), (topics[1], 0)]);
        assert_eq!(cursor.text(), "7-0");
        assert_eq!(Cursor::parse("7-0", &topics), Some(cursor));
        for text in ["", "7", "7-0-1", "7-x", "-1-2", "7--2", "99999999999999999999-0"] {
            assert_eq!(Cursor::parse(text, &topics), None, "{text}");
        }
    }
}
