"""What planning does while nobody waits."""

from procrastinate.contrib.django import app
from workshop.background import job

from .lab import services as lab
from .services import roll


@app.periodic(cron="* * * * * */10")
@job("ward.roll", "bringing what is due forward", queueing_lock="ward.roll", lock="ward.roll")
def bring_forward(timestamp: int) -> None:
    roll()


@job(lab.TAKE_IN, "taking in a laboratory's file")
def take_in(file: str) -> None:
    lab.work(file)
