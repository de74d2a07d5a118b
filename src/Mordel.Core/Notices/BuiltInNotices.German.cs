using System.Collections.Frozen;

namespace Mordel.Core.Notices;

// In German.
public static partial class BuiltInNotices
{
    private static FrozenDictionary<NoticeKind, NoticeTemplate> InGerman() =>
        All(
            """
            {% for a in assemblies %}- {{ a.place }}: {{ a.what }} ({{ a.serves }})
            {% endfor %}
            """,
            """
            {{ firm }}{% if phone %}
            {{ phone }}{% endif %}
            """,
            (
                NoticeKind.Visit,
                "Wasser aus: {{ day }}, {{ from }} bis {{ until }} Uhr, Prüfung der Sicherungsarmatur, {{ place }}",
                """
                {{ to }},

                {{ tester }} kommt am {{ day }} zwischen {{ from }} und {{ until }} Uhr und prüft:

                <EACH>
                {% for a in assemblies %}Das Wasser ist dafür rund {{ a.minutes }} Minuten aus ({{ a.serves }}).
                {% endfor %}
                {% if fire_line %}Eine davon speist eine Löschanlage: Bitte vor dem Absperren die Alarmstelle
                verständigen und eine Brandwache stellen.

                {% endif %}Bitte zusagen, einen anderen Termin nennen und sagen, an wen wir uns wenden sollen:
                {{ page }}

                Was nicht ohne Wasser sein darf (Kühlung, Dialyse, Kessel, Anlagen), müssen wir vorher wissen.
                """
            ),
            (
                NoticeKind.Reminder,
                "Morgen, {{ from }} bis {{ until }} Uhr: Wasser aus, {{ place }}",
                """
                {{ to }},

                zur Erinnerung: {{ tester }} kommt am {{ day }} zwischen {{ from }} und {{ until }} Uhr und prüft:

                <EACH>
                Wenn das nicht mehr passt, bitte hier sagen:
                {{ page }}
                """
            ),
            (
                NoticeKind.Changed,
                "Anderer Termin: {{ day }}, {{ from }} bis {{ until }} Uhr, {{ place }}",
                """
                {{ to }},

                angekündigt war {{ was_day }}, {{ was_from }} bis {{ was_until }} Uhr. Nun kommt {{ tester }} am
                {{ day }}
                zwischen {{ from }} und {{ until }} Uhr und prüft:

                <EACH>
                Bitte sagen, ob das passt:
                {{ page }}
                """
            ),
            (
                NoticeKind.Cancelled,
                "Kein Besuch am {{ was_day }}: {{ place }}",
                """
                {{ to }},

                der Besuch am {{ was_day }}, {{ was_from }} bis {{ was_until }} Uhr, entfällt. Das Wasser bleibt
                an. Die Prüfung
                steht weiter aus, wir schreiben wieder:

                <EACH>
                {{ page }}
                """
            ),
            (
                NoticeKind.Passed,
                "Bestanden: Sicherungsarmatur, {{ place }}",
                """
                {{ to }},

                {% for a in assemblies %}{{ a.what }}, Nummer {{ a.serial }}:
                bestanden. Nächste Prüfung bis {{ a.next_due }}.
                Der Bericht {{ a.report }} liegt bei, mit seinem Siegel.
                {% endfor %}
                Alle Berichte:
                {{ page }}
                """
            ),
            (
                NoticeKind.Failed,
                "NICHT BESTANDEN: Sicherungsarmatur, {{ place }}",
                """
                {{ to }},

                {% for a in assemblies %}{{ a.what }}, Nummer {{ a.serial }} ({{ a.serves }}), hat nicht bestanden:
                {{ a.why }}
                Bis {{ a.next_due }} ist sie instand zu setzen und neu zu prüfen. Der Bericht {{ a.report }}
                liegt bei.
                {% endfor %}
                {% if high_hazard %}Sie schützt vor einer hohen Gefährdung. Bis sie instand gesetzt ist, gilt,
                was Prüfer und
                Wasserversorger sagen; die Leitung muss vielleicht abgestellt bleiben. {{ authority }} wird auch
                verständigt.
                {% endif %}
                {{ page }}
                """
            ),
            (
                NoticeKind.Alert,
                "Nicht bestanden bei hoher Gefährdung: {{ place }}",
                """
                {{ to }},

                zur sofortigen Kenntnis:

                {% for a in assemblies %}{{ a.what }}, Nummer {{ a.serial }}, {{ a.place }},
                {{ address }} ({{ a.serves }}):
                {{ a.why }}
                Der Bericht {{ a.report }} liegt bei.
                {% endfor %}
                """
            ),
            (
                NoticeKind.Due,
                "Prüfung fällig: Sicherungsarmatur, {{ place }}",
                """
                {{ to }},

                {{ authority }} verlangt eine Prüfung von:

                {% for a in assemblies %}- {{ a.place }}: {{ a.what }}, bis {{ a.due }}.
                {% endfor %}
                Bitte sagen, wann das Wasser abgestellt werden darf und an wen wir uns wenden sollen:
                {{ page }}
                """
            ),
            (
                NoticeKind.Second,
                "Zweite Mahnung: Prüfung überfällig, {{ place }}",
                """
                {{ to }},

                eine Prüfung, die {{ authority }} verlangt, ist überfällig:

                {% for a in assemblies %}- {{ a.place }}: {{ a.what }}, fällig war {{ a.due }}.
                {% endfor %}
                Bitte sagen, wann das Wasser abgestellt werden darf:
                {{ page }}
                """
            ),
            (
                NoticeKind.ShutOff,
                "Warnung vor dem Abstellen: {{ place }}",
                """
                {{ to }},

                diese Prüfung steht noch aus, und {{ authority }} kann das Wasser abstellen:

                {% for a in assemblies %}- {{ a.place }}: {{ a.what }}, fällig war {{ a.due }}.
                {% endfor %}
                Bitte gleich sagen, wann wir kommen dürfen:
                {{ page }}

                Was der Versorger wann entscheidet, teilt er selbst mit.
                """
            )
        );
}
