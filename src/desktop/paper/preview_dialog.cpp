#include "cinnabar/desktop/paper/preview_dialog.h"
#include "cinnabar/desktop/controls/controls.h"
#include "cinnabar/desktop/controls/sheets.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QPageSize>
#include <QPrintDialog>
#include <QPrintPreviewWidget>
#include <QPrinter>
#include <QPushButton>
#include <QVBoxLayout>

namespace cinnabar {

PreviewDialog::PreviewDialog(Project project, std::optional<std::vector<CardContent>> contents, QWidget* parent)
    : QDialog(parent),
      project_(std::move(project)),
      contents_(std::move(contents)),
      printer_(std::make_unique<QPrinter>(QPrinter::HighResolution)) {
  beginSheet(this, "paperPreview", contents_ ? tr("Shot cards on paper") : tr("Shot list on paper"), {760, 680});
  printer_->setPageSize(QPageSize(QPageSize::A4));
  printer_->setFullPage(true);
  printer_->setPageMargins(QMarginsF(0, 0, 0, 0));
  view_ = new QPrintPreviewWidget(printer_.get(), this);
  view_->setObjectName("paperPages");
  view_->setAccessibleName(tr("Pages"));
  const auto button = [&](const QString& text, const char* name, auto action) {
    auto* b = new QPushButton(text, this);
    b->setObjectName(name);
    b->setAutoDefault(false);
    connect(b, &QPushButton::clicked, this, action);
    return b;
  };
  before_ = button(tr("Page before"), "pageBefore", [this] { showPage(view_->currentPage() - 1); });
  after_ = button(tr("Page after"), "pageAfter", [this] { showPage(view_->currentPage() + 1); });
  where_ = new PlainLabel(this);
  where_->setObjectName("pageNumber");
  auto* row = new QHBoxLayout;
  row->addWidget(before_);
  row->addWidget(after_);
  row->addWidget(where_, 1);
  row->addWidget(button(tr("Nearer"), "paperNearer", [this] { view_->zoomIn(1.25); }));
  row->addWidget(button(tr("Whole page"), "paperWhole", [this] { view_->fitInView(); }));
  row->addWidget(button(tr("As PDF"), "paperPdf", [this] { emit writePdf(); }));
  row->addWidget(button(tr("Print"), "paperPrint", [this] { print(); }));
  row->addWidget(button(tr("Close"), "paperClose", [this] { close(); }));
  auto* all = new QVBoxLayout(this);
  all->addWidget(view_, 1);
  all->addLayout(row);
  connect(view_, &QPrintPreviewWidget::paintRequested, this, &PreviewDialog::paint);
  connect(view_, &QPrintPreviewWidget::previewChanged, this, &PreviewDialog::refresh);
  view_->setZoomMode(QPrintPreviewWidget::FitInView);
  view_->updatePreview();
  refresh();
}

PreviewDialog::~PreviewDialog() { delete view_; }  // before its printer

void PreviewDialog::paint(QPrinter* printer) {
  contents_ ? paintShotCards(*printer, project_, *contents_) : paintShotList(*printer, project_);
}

int PreviewDialog::pages() const { return view_->pageCount(); }

void PreviewDialog::showPage(int page) {
  view_->setCurrentPage(std::clamp(page, 1, std::max(1, pages())));
  refresh();
}

void PreviewDialog::refresh() {
  const int page = view_->currentPage();
  where_->setText(tr("page %1 of %2").arg(page).arg(pages()));
  before_->setEnabled(page > 1);
  after_->setEnabled(page < pages());
}

void PreviewDialog::print() {
  auto* dialog = new QPrintDialog(printer_.get(), this);
  dialog->setObjectName("printer");
  dialog->setAttribute(Qt::WA_DeleteOnClose);
  connect(dialog, qOverload<QPrinter*>(&QPrintDialog::accepted), this, [this](QPrinter* to) { paint(to); });
  dialog->open();
}

}  // namespace cinnabar
