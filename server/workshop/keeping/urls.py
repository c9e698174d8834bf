from django.urls import path

from .views import KeepingView, PassphraseView

urlpatterns = [
    path("keeping/", KeepingView.as_view()),
    path("keeping/passphrase/", PassphraseView.as_view()),
]
