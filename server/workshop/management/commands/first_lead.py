"""Makes the workshop's first lead, and prints the one link they come in by."""

import re
from typing import Any
from uuid import uuid4

from config.sentences import sentence_of
from django.core.management.base import BaseCommand, CommandError, CommandParser
from django.db import transaction
from django.utils import timezone
from oilward_core.errors import CoreError

from workshop.models import Person
from workshop.people.services import link_for, new_person
from workshop.rights import Right, Role, with_right
from workshop.second.services import clear

THERE = (
    "There is a lead already: {names}. They add people under Workshop, People. One who lost their way "
    "in: --again."
)


def _leads() -> list[Person]:
    found = Person.objects.filter(role__in=with_right(Right.LEAD), is_active=True).order_by("name")
    return [row for row in found if row.has_usable_password()]


class Command(BaseCommand):
    help = "Make the workshop's first lead; prints a one-time link."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("name", nargs="?", default="")
        parser.add_argument("--sign-in", default="")
        parser.add_argument("--address", action="append")
        parser.add_argument("--again", action="store_true")
        parser.add_argument("--look", action="store_true")

    def handle(self, *args: Any, **options: Any) -> None:
        if options["look"]:
            if not _leads():
                self.stdout.write(
                    "Nobody leads it yet: ./ward first-lead NAME makes the first link."
                )
            return
        try:
            with transaction.atomic():
                person = self._person(options["name"], options["sign_in"], options["again"])
                link = link_for(person, uuid4(), timezone.now())
                if options["again"]:
                    clear(person, actor=person)
        except CoreError as error:
            raise CommandError(sentence_of(error)) from error
        at = options["address"] or [""]
        links = "\n\nor, where that name is not found,\n\n  ".join(
            f"{one}{link.path}" for one in at
        )
        self.stdout.write(
            f"{person.name} signs in as {person.username}. This link opens once, within {link.hours} "
            f"hours:\n\n  {links}\n"
        )

    def _person(self, name: str, sign_in: str, again: bool) -> Person:
        leads = _leads()
        if leads and not again:
            raise CommandError(THERE.format(names=", ".join(row.name for row in leads)))
        if known := Person.objects.filter(name__iexact=" ".join(name.split())).first():
            if known.role not in with_right(Right.LEAD) or not known.is_active:
                raise CommandError(f"{known.name} is no lead here.")
            return known
        if leads:
            raise CommandError(f"Nobody here is called {name}.")
        row = new_person(
            sign_in or re.sub(r"[^a-z0-9]+", ".", name.lower()).strip("."), name, Role.LEAD
        )
        row.save()
        return row
