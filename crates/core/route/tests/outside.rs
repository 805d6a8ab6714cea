//! Against sequences that are not ours.
#![allow(clippy::unwrap_used, reason = "helpers of tests are tests")]

use lumbo_route::{Share, rotate};

/// Rotation: smooth weighted sequences of `fair_assignment.json`; 5,1,1 is the published one (from memory), the others
/// were computed from the definition.
#[test]
fn rotation_follows_the_smooth_weighted_sequence() {
    let file: serde_json::Value = serde_json::from_str(include_str!("data/fair_assignment.json")).unwrap();
    for case in file["smooth_wrr"].as_array().unwrap() {
        let weights = case["w"].as_object().unwrap();
        let mut shares: Vec<Share> =
            weights.values().map(|weight| Share { weight: weight.as_i64().unwrap(), current: 0 }).collect();
        let expected = case["seq"].as_str().unwrap();
        let names: Vec<&String> = weights.keys().collect();
        let given: String = (0..expected.len()).map(|_| names[rotate(&mut shares).unwrap()].as_str()).collect();
        assert_eq!(given, expected);
    }
    assert_eq!(rotate(&mut []), None);
    assert_eq!(rotate(&mut [Share { weight: 0, current: 0 }]), None);
}
