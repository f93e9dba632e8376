#include "app/window/file_row.h"

#include "app/cards/card.h"

#include <QFileDialog>
#include <QFileInfo>
#include <QHBoxLayout>

namespace frelm {

FileRow::FileRow(const QString& path, const QStringList& filters, QWidget* parent)
    : QWidget(parent), folder_(QFileInfo(path).absolutePath()), filters_(filters), field_(new QLineEdit(path)),
      note_(note_label()) {
  auto* all = new QVBoxLayout(this);
  all->setContentsMargins(0, 0, 0, 0);
  all->setSpacing(4);
  auto* line = new QHBoxLayout;
  auto* button = new QPushButton(tr("Choose…"));
  field_->setAccessibleName(tr("File"));
  line->addWidget(field_, 1);
  line->addWidget(button);
  all->addLayout(line);
  all->addWidget(note_);
  connect(button, &QPushButton::clicked, this, &FileRow::choose);
  connect(field_, &QLineEdit::returnPressed, this, &FileRow::entered);
  connect(field_, &QLineEdit::textChanged, this, [this] {
    show_replaced();
    emit changed();
  });
  show_replaced();
}

QString FileRow::path() const {
  const QString typed = field_->text().trimmed();
  if (typed.startsWith("~/"))
    return QDir::home().absoluteFilePath(typed.mid(2));
  return typed.isEmpty() ? QString() : folder_.absoluteFilePath(typed);
}

void FileRow::set_path(const QString& path) {
  field_->setText(path);
}

void FileRow::set_replaces(bool replaces) {
  replaces_ = replaces;
  show_replaced();
}

void FileRow::show_replaced() {
  const bool there = replaces_ && QFileInfo::exists(path());
  note_->setText(there ? tr("There is a file of this name; it will be replaced.") : QString());
  note_->setVisible(there);
}

void FileRow::choose() {
  QString chosen = filters_.value(usual_);
  QString path = QFileDialog::getSaveFileName(this, tr("The file"), field_->text(), filters_.join(";;"), &chosen,
                                              QFileDialog::DontConfirmOverwrite); // the row says it
  if (path.isEmpty())
    return;
  if (QFileInfo(path).suffix().isEmpty())
    path += chosen.section("(*", 1).chopped(1);
  field_->setText(path);
}

} // namespace frelm
