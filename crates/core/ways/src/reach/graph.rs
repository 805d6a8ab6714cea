//! Strongly connected components, and the shortest and longest ways between them.

/// The component of each node (Tarjan's algorithm, without recursion); a component is numbered after all it leads to.
pub(crate) fn components<I: Iterator<Item = usize>>(count: usize, after: impl Fn(usize) -> I) -> Vec<usize> {
    const NONE: usize = usize::MAX;
    let (mut order, mut low, mut group) = (vec![NONE; count], vec![0; count], vec![NONE; count]);
    let (mut stack, mut next, mut groups) = (Vec::new(), 0, 0);
    for root in 0..count {
        if order[root] != NONE {
            continue;
        }
        let mut calls = vec![(root, after(root))];
        order[root] = next;
        low[root] = next;
        next += 1;
        stack.push(root);
        while let Some((node, rest)) = calls.last_mut() {
            let node = *node;
            match rest.next() {
                Some(child) if order[child] == NONE => {
                    order[child] = next;
                    low[child] = next;
                    next += 1;
                    stack.push(child);
                    calls.push((child, after(child)));
                }
                Some(child) => {
                    if group[child] == NONE {
                        low[node] = low[node].min(order[child]);
                    }
                }
                None => {
                    calls.pop();
                    if let Some((parent, _)) = calls.last() {
                        low[*parent] = low[*parent].min(low[node]);
                    }
                    if low[node] == order[node] {
                        while let Some(member) = stack.pop() {
                            group[member] = groups;
                            if member == node {
                                break;
                            }
                        }
                        groups += 1;
                    }
                }
            }
        }
    }
    group
}

/// Least and most of a count along the ways from some nodes; the most is missing where a circle that counts lies on
/// the way. Nodes that are not reached have none.
pub(crate) type Span = Option<(u32, Option<u32>)>;

/// An edge: from, to, least and most that it counts.
pub(crate) type Edge = (usize, usize, u32, u32);

/// Spans from the given nodes to every node.
pub(crate) fn spans(count: usize, edges: &[Edge], sources: &[(usize, (u32, Option<u32>))]) -> Vec<Span> {
    let mut out: Vec<Vec<(usize, u32, u32)>> = vec![Vec::new(); count];
    edges.iter().for_each(|(from, to, least, most)| out[*from].push((*to, *least, *most)));
    let group = components(count, |node| out[node].iter().map(|(to, ..)| *to));
    let groups = group.iter().max().map_or(0, |group| group + 1);
    let mut members: Vec<Vec<usize>> = vec![Vec::new(); groups];
    group.iter().enumerate().for_each(|(node, group)| members[*group].push(node));
    let mut spans: Vec<Span> = vec![None; count];
    sources.iter().for_each(|(node, span)| spans[*node] = widest(spans[*node], *span));
    for group_at in (0..groups).rev() {
        let inside = |to: usize| group[to] == group_at;
        let counts =
            members[group_at].iter().any(|node| out[*node].iter().any(|(to, _, most)| inside(*to) && *most > 0));
        // Within a circle: the least by relaxing until nothing changes, the most only where nothing counts.
        loop {
            let mut changed = false;
            for node in &members[group_at] {
                let Some((least, most)) = spans[*node] else { continue };
                for (to, low, high) in &out[*node] {
                    if inside(*to) {
                        let most = if counts { None } else { most.map(|most| most + high) };
                        let wider = widest(spans[*to], (least + low, most));
                        changed |= wider != spans[*to];
                        spans[*to] = wider;
                    }
                }
            }
            if !changed {
                break;
            }
        }
        for node in members[group_at].clone() {
            let Some((least, most)) = spans[node] else { continue };
            for (to, low, high) in &out[node] {
                if !inside(*to) {
                    spans[*to] = widest(spans[*to], (least + low, most.map(|most| most + high)));
                }
            }
        }
    }
    spans
}

fn widest(known: Span, other: (u32, Option<u32>)) -> Span {
    Some(match known {
        None => other,
        Some((least, most)) => (least.min(other.0), most.zip(other.1).map(|(one, two)| one.max(two))),
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_circle_is_one_component_and_comes_after_what_it_leads_to() {
        let after = [vec![1], vec![2], vec![1, 3], vec![]];
        let group = components(4, |node| after[node].iter().copied());
        assert_eq!(group[1], group[2]);
        assert!(group[3] < group[1] && group[1] < group[0], "{group:?}");
    }

    #[test]
    fn ways_are_spanned_and_a_counting_circle_has_no_most() {
        let edges = [(0, 1, 1, 1), (0, 2, 0, 0), (1, 3, 2, 3), (2, 3, 1, 1), (3, 4, 0, 0)];
        assert_eq!(spans(5, &edges, &[(0, (0, Some(0)))])[4], Some((1, Some(4))));
        let round = [edges.as_slice(), &[(3, 1, 1, 1)]].concat();
        assert_eq!(spans(5, &round, &[(0, (0, Some(0)))])[4], Some((1, None)));
        assert_eq!(spans(6, &edges, &[(0, (0, Some(0)))])[5], None);
    }
}
