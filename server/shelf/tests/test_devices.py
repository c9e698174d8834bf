import random
from decimal import Decimal
from statistics import mean, pstdev

from demo.testing import WorkshopTestCase

from shelf.devices import SimulatedWrench
from shelf.mapping import wrench
from shelf.models import WrenchRow


class WrenchTests(WorkshopTestCase):
    def test_peaks_scatter_around_the_aim_within_accuracy(self) -> None:
        row = WrenchRow.objects.get(simulated=True)
        device = SimulatedWrench(random.Random(1))
        peaks = [float(device.peak(wrench(row), Decimal(27))) for _ in range(2000)]
        self.assertAlmostEqual(mean(peaks), 27, delta=0.05)
        self.assertAlmostEqual(pstdev(peaks), 27 * 0.04 / 3, delta=0.03)

    def test_pull_over_the_api_says_it_is_simulated(self) -> None:
        row = WrenchRow.objects.get(simulated=True)
        answer = self.api.get(f"/api/wrenches/{row.pk}/pull/", {"aim": "27 N·m"}).json()
        self.assertTrue(answer["simulated"])
        self.assertRegex(answer["reading"], r"^2\d\.\d N·m$")

    def test_a_plain_wrench_reports_nothing(self) -> None:
        row = WrenchRow.objects.filter(simulated=False).first()
        assert row is not None
        self.assertEqual(self.api.get(f"/api/wrenches/{row.pk}/pull/?aim=27+N·m").status_code, 404)

    def test_a_wrong_aim_is_refused(self) -> None:
        row = WrenchRow.objects.get(simulated=True)
        answer = self.api.get(f"/api/wrenches/{row.pk}/pull/", {"aim": "2 l"})
        self.assertEqual(answer.status_code, 422)
        self.assertIn("wants a torque", self.sentence(answer, "/aim"))
