//! Logistic regression: the weights under which what was seen is likeliest, held small where asked.
//!
//! Maximises the sum of log likelihoods less half the penalty times the squared weights, by Newton's steps, halved
//! where one would overshoot. The penalty does not touch the intercept. Equal cases are counted together, so that a fit
//! over many leads with few criteria takes no longer than one over few leads.

/// Cases with equal features.
#[derive(Debug, Clone, PartialEq)]
pub struct Case {
    /// A number for each feature.
    pub features: Vec<f64>,
    /// How many of them were won.
    pub hits: f64,
    /// How many there are.
    pub of: f64,
}

/// Weights and how sure they are.
#[derive(Debug, Clone, PartialEq)]
pub struct Fit {
    /// Log odds where every feature is zero.
    pub intercept: f64,
    /// What one unit of each feature adds to the log odds.
    pub weights: Vec<f64>,
    /// Standard errors, the intercept's first: from the inverse of the information with the penalty.
    pub errors: Vec<f64>,
    /// Log likelihood, without the penalty.
    pub log_likelihood: f64,
}

/// Why there are no weights.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum FitError {
    /// All were won, all were lost, or there are none.
    OneOutcome,
    /// The weights grow without end: some features tell the outcome entirely.
    Separated,
    /// Two features are always equal, or one never changes.
    Dependent,
}

/// Most steps; what needs more does not settle.
const STEPS: usize = 60;
/// Largest weight that is believed without a penalty: odds of a million to one.
const BELIEVED: f64 = 14.0;

impl Fit {
    /// Log odds of a case.
    #[must_use]
    pub fn log_odds(&self, features: &[f64]) -> f64 {
        self.intercept + self.weights.iter().zip(features).map(|(weight, feature)| weight * feature).sum::<f64>()
    }

    /// Chance of a case, from 0 to 1.
    #[must_use]
    pub fn chance(&self, features: &[f64]) -> f64 {
        chance(self.log_odds(features))
    }
}

fn chance(log_odds: f64) -> f64 {
    1.0 / (1.0 + (-log_odds).exp())
}

/// ln(1 + e^x), without overflow.
fn soft(x: f64) -> f64 {
    x.max(0.0) + (-x.abs()).exp().ln_1p()
}

/// Weights of cases under a penalty, 0 for none.
///
/// # Errors
/// A [`FitError`].
pub fn fit(cases: &[Case], penalty: f64) -> Result<Fit, FitError> {
    let size = cases.first().map_or(0, |case| case.features.len()) + 1;
    let (hits, of) = cases.iter().fold((0.0, 0.0), |sum, case| (sum.0 + case.hits, sum.1 + case.of));
    if hits <= 0.0 || hits >= of {
        return Err(FitError::OneOutcome);
    }
    let mut weights = vec![0.0; size];
    weights[0] = (hits / (of - hits)).ln();
    let mut value = objective(cases, &weights, penalty);
    let mut settled = false;
    for _ in 0..STEPS {
        let (slope, mut curve) = derivatives(cases, &weights, penalty);
        if !factorise(&mut curve, size) {
            return Err(if penalty > 0.0 { FitError::Dependent } else { dependent_or_separated(&weights) });
        }
        let step = solve(&curve, size, &slope);
        let mut share = 1.0;
        let moved = loop {
            let tried: Vec<f64> = weights.iter().zip(&step).map(|(weight, step)| weight + share * step).collect();
            let there = objective(cases, &tried, penalty);
            if there >= value - 1e-12 * value.abs() {
                let gain = there - value;
                (weights, value) = (tried, there);
                break gain;
            }
            share /= 2.0;
            if share < 1e-10 {
                break 0.0;
            }
        };
        let largest = step.iter().fold(0.0_f64, |most, step| most.max((share * step).abs()));
        if moved.abs() <= 1e-12 * (1.0 + value.abs()) && largest < 1e-7 {
            settled = true;
            break;
        }
    }
    if penalty <= 0.0 && (!settled || weights.iter().skip(1).any(|weight| weight.abs() > BELIEVED)) {
        return Err(FitError::Separated);
    }
    let (_, mut curve) = derivatives(cases, &weights, penalty);
    if !factorise(&mut curve, size) {
        return Err(FitError::Dependent);
    }
    let errors = (0..size)
        .map(|place| {
            let mut unit = vec![0.0; size];
            unit[place] = 1.0;
            solve(&curve, size, &unit)[place].max(0.0).sqrt()
        })
        .collect();
    let log_likelihood = objective(cases, &weights, 0.0);
    let intercept = weights.remove(0);
    Ok(Fit { intercept, weights, errors, log_likelihood })
}

fn dependent_or_separated(weights: &[f64]) -> FitError {
    if weights.iter().any(|weight| weight.abs() > BELIEVED / 2.0) { FitError::Separated } else { FitError::Dependent }
}

fn at(case: &Case, weights: &[f64]) -> f64 {
    weights[0] + case.features.iter().zip(&weights[1..]).map(|(feature, weight)| feature * weight).sum::<f64>()
}

fn objective(cases: &[Case], weights: &[f64], penalty: f64) -> f64 {
    let likelihood: f64 = cases
        .iter()
        .map(|case| {
            let odds = at(case, weights);
            case.hits * odds - case.of * soft(odds)
        })
        .sum();
    likelihood - penalty / 2.0 * weights[1..].iter().map(|weight| weight * weight).sum::<f64>()
}

/// Slope and negative curvature of the objective; the curvature as rows of a square.
fn derivatives(cases: &[Case], weights: &[f64], penalty: f64) -> (Vec<f64>, Vec<f64>) {
    let size = weights.len();
    let (mut slope, mut curve) = (vec![0.0; size], vec![0.0; size * size]);
    let feature = |case: &Case, place: usize| if place == 0 { 1.0 } else { case.features[place - 1] };
    for case in cases {
        let expected = chance(at(case, weights));
        let (left, spread) = (case.hits - case.of * expected, case.of * expected * (1.0 - expected));
        for row in 0..size {
            let x = feature(case, row);
            if x == 0.0 {
                continue;
            }
            slope[row] += left * x;
            for column in 0..=row {
                curve[row * size + column] += spread * x * feature(case, column);
            }
        }
    }
    for row in 1..size {
        slope[row] -= penalty * weights[row];
        curve[row * size + row] += penalty;
    }
    (slope, curve)
}

/// Cholesky's factor in the lower half, in place; false where the matrix is not positive definite.
fn factorise(matrix: &mut [f64], size: usize) -> bool {
    for row in 0..size {
        for column in 0..=row {
            let mut sum = matrix[row * size + column];
            for inner in 0..column {
                sum -= matrix[row * size + inner] * matrix[column * size + inner];
            }
            if row == column {
                if sum <= 1e-9 {
                    return false;
                }
                matrix[row * size + row] = sum.sqrt();
            } else {
                matrix[row * size + column] = sum / matrix[column * size + column];
            }
        }
    }
    true
}

fn solve(factor: &[f64], size: usize, right: &[f64]) -> Vec<f64> {
    let mut out = right.to_vec();
    for row in 0..size {
        for column in 0..row {
            out[row] -= factor[row * size + column] * out[column];
        }
        out[row] /= factor[row * size + row];
    }
    for row in (0..size).rev() {
        for below in row + 1..size {
            out[row] -= factor[below * size + row] * out[below];
        }
        out[row] /= factor[row * size + row];
    }
    out
}
