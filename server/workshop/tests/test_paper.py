"""Printed pages: what stands on every one, and letters from all over Europe."""

from io import BytesIO

from django.test import SimpleTestCase
from pypdf import PdfReader
from reportlab.pdfbase import pdfmetrics

from workshop.paper import BOLD, NUMBERS, PLAIN, Tick, block, number, print_pages, words


class PaperTests(SimpleTestCase):
    def test_every_page_says_what_it_is_about_and_how_many_there_are(self) -> None:
        rows = [[Tick(), words(f"thing {n}"), number("2 × 946 ml")] for n in range(30)]
        blocks = [block(f"Block {n}", rows, [8, 100, 60]) for n in range(3)]
        pages = PdfReader(BytesIO(print_pages("Kit: Łódź Őr", "Łódź Őr", blocks))).pages
        self.assertGreater(len(pages), 2)
        for n, page in enumerate(pages, 1):
            text = page.extract_text()
            self.assertEqual(text.count("Łódź Őr"), 2)  # at the head and at the foot
            self.assertIn(f"page {n} of {len(pages)}", text)

    def test_each_type_has_a_name_of_its_own_and_the_signs_a_bench_needs(self) -> None:
        print_pages("t", "a", [words("w")])
        faces = [pdfmetrics.getFont(name).face for name in (PLAIN, BOLD, NUMBERS)]
        # two that share one take each other's letters in a document, and nothing is seen
        self.assertEqual(len({face.name for face in faces}), 3)
        for face in faces:
            missing = [sign for sign in "N·m½¼°–×€±ßøłőč" if ord(sign) not in face.charToGlyph]
            self.assertEqual(missing, [])
