"""The nine-step line: punched where settled, a gap where open, a bracket where held, dots where later."""

from collections.abc import Sequence

from markupsafe import Markup

from ditto_run.core.steps import StepState

SHORT_STEP = 28  # the line of the job list is 252 px for nine steps


def _parts(state: StepState, left: float, width: float, height: float) -> str:
    middle, right = height / 2, left + width
    centre = left + width / 2
    if state.state == "later":
        return f'<path class="ln dots" d="M{left},{middle}H{right}"/>'
    if state.state == "open":
        gap = min(12.0, width / 5)
        return (
            f'<path class="ln" d="M{left},{middle}H{centre - gap}M{centre + gap},{middle}H{right}'
            f'M{centre - gap},2V{height - 2}M{centre + gap},2V{height - 2}"/>'
        )
    if state.state == "held":
        gap = min(18.0, width / 3)
        return (
            f'<path class="ln" d="M{left},{middle}H{centre - gap}M{centre + gap},{middle}H{right}"/>'
            f'<path class="ln held" d="M{centre - gap + 6},1H{centre - gap}V{height - 1}h6'
            f'M{centre + gap - 6},1h6V{height - 1}h-6"/>'
        )
    marks = "".join(
        f'<circle class="ln-punch" cx="{left + width * share:.1f}" cy="{middle}" r="3.4"/>'
        for share in ((0.22, 0.5, 0.78) if width > SHORT_STEP * 2 else (0.5,))
    )
    return f'<path class="ln" d="M{left},{middle}H{right}"/>{marks}'


def step_mark(state: StepState) -> Markup:
    """Return the piece of the line above one step's word."""
    return Markup(
        f'<svg aria-hidden="true" viewBox="0 0 92 16" preserveAspectRatio="none">{_parts(state, 0, 92, 16)}</svg>'
    )


def short_line(states: Sequence[StepState]) -> Markup:
    """Return the whole line as it stands in the job list, with a sentence for those who cannot see it."""
    parts, words = "", []
    for index, state in enumerate(states):
        left = index * SHORT_STEP
        parts += _parts(state, left, SHORT_STEP, 16)
        parts += f'<text class="ln-n" x="{left + SHORT_STEP / 2}" y="36" text-anchor="middle">{state.step.number}</text>'
        words.append(f"{state.step.word} {state.words}")
    width = SHORT_STEP * len(states)
    return Markup(
        f'<svg class="steps-short" role="img" aria-label="Steps: {", ".join(words)}" width="{width}" height="42" '
        f'viewBox="0 0 {width} 42"><g aria-hidden="true">{parts}</g></svg>'
    )


def open_gap(yields: str) -> Markup:
    """Return the gap in the step line that a thing of this weight makes: thin bars, thick ones, hatched between."""
    if yields == "plain":  # a note wants no answer, so it makes no gap
        return Markup('<svg aria-hidden="true" width="16" height="16"></svg>')
    thick = ' stroke-width="4.5"' if yields in {"initials", "never"} else ""
    between = (
        '<rect x="15" y="1" width="14" height="14" fill="url(#gap-hatch)"/>' if yields == "never" else ""
    )
    return Markup(
        '<svg aria-hidden="true" width="44" height="16" viewBox="0 0 44 16">'
        f'{between}<path class="ln" d="M0,8H14M30,8H44"/><path class="ln"{thick} d="M14,1V15M30,1V15"/></svg>'
    )
