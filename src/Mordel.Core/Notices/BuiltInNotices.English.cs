using System.Collections.Frozen;

namespace Mordel.Core.Notices;

// In English.
public static partial class BuiltInNotices
{
    private static FrozenDictionary<NoticeKind, NoticeTemplate> InEnglish() =>
        All(
            """
            {% for a in assemblies %}- {{ a.place }}: {{ a.what }}, for {{ a.serves }}
            {% endfor %}
            """,
            """
            {{ firm }}{% if phone %}
            {{ phone }}{% endif %}
            """,
            (
                NoticeKind.Visit,
                "Water off on {{ day }}, {{ from }} to {{ until }}: test of the backflow preventer, {{ place }}",
                """
                {{ to }},

                {{ tester }} comes on {{ day }}, between {{ from }} and {{ until }}, to test:

                <EACH>
                {% for a in assemblies %}For {{ a.serves }} the water is off for some {{ a.minutes }} minutes.
                {% endfor %}
                {% if fire_line %}One of them feeds a fire system: tell the alarm company before it is shut, and
                have a fire watch.

                {% endif %}Say yes, ask for another time, and say whom we should ask for:
                {{ page }}

                What must not lose its water (cooling, dialysis, boilers, processes) must be known to us before.
                """
            ),
            (
                NoticeKind.Reminder,
                "Tomorrow, {{ from }} to {{ until }}: water off at {{ place }}",
                """
                {{ to }},

                a reminder: {{ tester }} comes on {{ day }}, between {{ from }} and {{ until }}, to test:

                <EACH>
                If that does not suit any more, tell us here:
                {{ page }}
                """
            ),
            (
                NoticeKind.Changed,
                "Another time: {{ day }}, {{ from }} to {{ until }}, {{ place }}",
                """
                {{ to }},

                we said {{ was_day }}, {{ was_from }} to {{ was_until }}. Now {{ tester }} comes on {{ day }},
                between {{ from }} and {{ until }}, to test:

                <EACH>
                Say whether that suits:
                {{ page }}
                """
            ),
            (
                NoticeKind.Cancelled,
                "Nobody comes on {{ was_day }}: {{ place }}",
                """
                {{ to }},

                the visit on {{ was_day }}, {{ was_from }} to {{ was_until }}, does not take place. Your water
                stays on. The test
                is still owed, and we will write again:

                <EACH>
                {{ page }}
                """
            ),
            (
                NoticeKind.Passed,
                "Passed: backflow preventer at {{ place }}",
                """
                {{ to }},

                {% for a in assemblies %}{{ a.what }}, serial {{ a.serial }}:
                passed. It is due again by {{ a.next_due }}.
                Report {{ a.report }} is enclosed; it carries its seal.
                {% endfor %}
                All reports:
                {{ page }}
                """
            ),
            (
                NoticeKind.Failed,
                "FAILED: backflow preventer at {{ place }}",
                """
                {{ to }},

                {% for a in assemblies %}{{ a.what }}, serial {{ a.serial }}, for {{ a.serves }}, did not pass:
                {{ a.why }}
                It is to be put right and tested again by {{ a.next_due }}. Report {{ a.report }} is enclosed.
                {% endfor %}
                {% if high_hazard %}It guards against a high hazard. Until it is put right, do as the tester on
                site and the
                water authority say; the line may have to stay shut. {{ authority }} is told too.
                {% endif %}
                {{ page }}
                """
            ),
            (
                NoticeKind.Alert,
                "Failed on a high hazard: {{ place }}",
                """
                {{ to }},

                told at once:

                {% for a in assemblies %}{{ a.what }}, serial {{ a.serial }}, at {{ a.place }},
                {{ address }}, for {{ a.serves }}:
                {{ a.why }}
                Report {{ a.report }} is enclosed.
                {% endfor %}
                """
            ),
            (
                NoticeKind.Due,
                "A test is due: backflow preventer at {{ place }}",
                """
                {{ to }},

                {{ authority }} asks for a test of:

                {% for a in assemblies %}- {{ a.place }}: {{ a.what }}, by {{ a.due }}. {{ a.why }}
                {% endfor %}
                Say when the water may be off, and whom we should ask for:
                {{ page }}
                """
            ),
            (
                NoticeKind.Second,
                "Second notice: test overdue at {{ place }}",
                """
                {{ to }},

                a test that {{ authority }} asks for is overdue:

                {% for a in assemblies %}- {{ a.place }}: {{ a.what }}, was due by {{ a.due }}. {{ a.then }}
                {% endfor %}
                Say when the water may be off:
                {{ page }}
                """
            ),
            (
                NoticeKind.ShutOff,
                "Shut-off warning: {{ place }}",
                """
                {{ to }},

                this test is still owed, and {{ authority }} may shut the water off:

                {% for a in assemblies %}- {{ a.place }}: {{ a.what }}, was due by {{ a.due }}. {{ a.then }}
                {% endfor %}
                Tell us at once when we may come:
                {{ page }}

                What the authority decides, and when, it will tell you itself.
                """
            )
        );
}
