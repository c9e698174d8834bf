from django.urls import path

from . import views

urlpatterns = [
    path("models/", views.ModelsView.as_view()),
    path("models/<int:model_id>/", views.ModelView.as_view()),
    path("models/<int:model_id>/draft/", views.DraftView.as_view()),
    path("sheets/document/", views.ImportView.as_view()),
    path("sheets/<int:sheet_id>/", views.SheetView.as_view()),
    path("sheets/<int:sheet_id>/cells/", views.CellsView.as_view()),
    path("sheets/<int:sheet_id>/reading/", views.ReadingView.as_view()),
    path("sheets/<int:sheet_id>/checks/", views.ChecksView.as_view()),
    path("sheets/<int:sheet_id>/parts/", views.PartsView.as_view()),
    path("sheets/<int:sheet_id>/copy/", views.CopyView.as_view()),
    path("sheets/<int:sheet_id>/leg/", views.LegView.as_view()),
    path("sheets/<int:sheet_id>/answers/", views.AnswersView.as_view()),
    path("sheets/<int:sheet_id>/approval/", views.ApprovalView.as_view()),
    path("sheets/<int:sheet_id>/table/", views.TableView.as_view()),
    path("sheets/<int:sheet_id>/document/", views.DocumentView.as_view()),
    path("sheets/<int:sheet_id>/fasteners.csv", views.FastenersView.as_view()),
]
