"""What is too long is refused at its field, in words, and nothing of it is cut off unseen."""

from typing import Any
from uuid import uuid4

from demo.testing import WorkshopTestCase
from shelf.models import Fluid


class LengthTests(WorkshopTestCase):
    def too_long(self, method: str, url: str, body: dict[str, Any], field: str, most: int) -> None:
        answer = getattr(self.api, method)(url, {**body, field: "x" * (most + 1)}, format="json")
        with self.subTest(url, field=field):
            self.assertEqual(answer.status_code, 400)
            said = self.sentence(answer, f"/{field}")
            self.assertEqual(said, f"That is too long: up to {most} characters fit here.")

    def test_a_field_says_how_much_it_holds(self) -> None:
        url = f"/api/bikes/{self.heron.pk}/form/"
        form = self.api.get(url).json()["form"]
        for field, most in (("name", 60), ("owner", 80), ("notes", 10_000)):
            self.too_long("put", url, form, field, most)
        fluid = next(c["form"] for c in self.api.get("/api/shelf/").json()["fluids"])
        for field, most in (("name", 80), ("grade", 40), ("approvals", 200)):
            self.too_long("put", "/api/shelf/fluids/", fluid, field, most)
        seal = {"act": str(uuid4()), "name": "ring", "count": "1", "seen": None}
        self.too_long("put", "/api/shelf/seals/", seal, "name", 200)
        model = {"make": "A", "name": "B", "year": "2020", "layout": "x", "displacement_cc": "90"}
        self.too_long("post", "/api/models/", model, "make", 60)
        self.too_long("post", f"/api/visits/{uuid4()}/leave/", {}, "reason", 500)

    def test_what_just_fits_is_kept_whole(self) -> None:
        fluid = next(c["form"] for c in self.api.get("/api/shelf/").json()["fluids"])
        body = {**fluid, "approvals": "y" * 200}
        self.assertEqual(self.api.put("/api/shelf/fluids/", body, format="json").status_code, 200)
        self.assertEqual(len(Fluid.objects.get(pk=fluid["id"]).approvals), 200)
