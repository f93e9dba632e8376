#include "app/window/proof_form_page.h"

#include "app/style/words.h"
#include "app/window/ground_row.h"
#include "formats/png.h"

#include <QCheckBox>
#include <QHBoxLayout>
#include <QPainter>
#include <QPlainTextEdit>

namespace frelm {
namespace {

constexpr int longest_line = 200, longest_remarks = 2000; // letters

} // namespace

ProofFormPage::ProofFormPage(Session& session, ProofForm form, const QString& path, QWidget* over)
    : Page(tr("Proof for the customer"), tr("Back to the sheet"), over), session_(session), form_(std::move(form)),
      picture_(new QLabel), file_(new FileRow(path, {tr("PDF (*.pdf)"), tr("PNG (*.png)")})), worker_(5) {
  auto* sides = new QHBoxLayout;
  sides->setSpacing(18);
  auto* rows = new QGridLayout;
  rows->setHorizontalSpacing(12);
  rows->setVerticalSpacing(8);
  rows->setColumnStretch(1, 1);
  auto add = [&, row = 0](const QString& label, QWidget* field) mutable {
    auto* words = new QLabel(label);
    rows->addWidget(words, row, 0, qobject_cast<QPlainTextEdit*>(field) != nullptr ? Qt::AlignTop : Qt::AlignVCenter);
    rows->addWidget(field, row++, 1);
  };
  QLineEdit* first = nullptr;
  const auto words = [&](const QString& label, std::string ProofForm::*value) {
    auto* field = new QLineEdit(QString::fromStdString(form_.*value));
    field->setMaxLength(longest_line);
    field->setAccessibleName(label);
    connect(field, &QLineEdit::textChanged, this, [this, value](const QString& now) {
      form_.*value = now.trimmed().toStdString();
      draw();
    });
    add(label, field);
    if (first == nullptr)
      first = field;
  };
  words(tr("Heading"), &ProofForm::title);
  words(tr("For"), &ProofForm::addressee);
  words(tr("Date"), &ProofForm::date);
  auto* remarks = new QPlainTextEdit(QString::fromStdString(form_.remarks));
  remarks->setAccessibleName(tr("Remarks"));
  remarks->setTabChangesFocus(true);
  remarks->setFixedHeight(5 * fontMetrics().height());
  connect(remarks, &QPlainTextEdit::textChanged, this, [this, remarks] {
    form_.remarks = remarks->toPlainText().left(longest_remarks).trimmed().toStdString();
    draw();
  });
  add(tr("Remarks"), remarks);
  words(tr("Below the line to sign"), &ProofForm::sign);
  auto* paper = new ChoiceRow(tr("Paper"), {tr("A4"), tr("Letter")});
  paper->show_choice(static_cast<int>(form_.paper));
  connect(paper, &ChoiceRow::chosen, this, [this](int now) { form_.paper = static_cast<Paper>(now), draw(); });
  add(tr("Paper"), paper);
  auto* ground = new GroundRow(session_, tr("Paper"), form_.ground);
  add(tr("The work on"), ground);
  connect(ground, &GroundRow::chosen, this, [this](std::optional<Colour> now) { form_.ground = now, draw(); });
  const auto flag = [&](const QString& label, bool ProofForm::*value) {
    auto* box = new QCheckBox(label);
    box->setChecked(form_.*value);
    connect(box, &QCheckBox::toggled, this, [this, value](bool on) { form_.*value = on, draw(); });
    add({}, box);
  };
  flag(tr("Its size"), &ProofForm::sizes);
  flag(tr("Its materials"), &ProofForm::materials);
  add(tr("File"), file_);
  rows->setRowStretch(rows->rowCount(), 1);
  sides->addLayout(rows, 5);
  picture_->setMinimumSize(200, 200);
  picture_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Ignored);
  picture_->setAlignment(Qt::AlignCenter);
  picture_->setAccessibleName(tr("The proof as it will be"));
  sides->addWidget(picture_, 7);
  body()->addLayout(sides, 1);
  QLabel* note = note_label();
  note->setText(tr("Only what you type is written. Empty lines are left out."));
  body()->addWidget(note);
  auto* save = new QPushButton(tr("Save the proof"));
  save->setObjectName("strong");
  connect(save, &QPushButton::clicked, this, &ProofFormPage::wanted_out);
  add_action(save);
  connect(&session_, &Session::document_changed, this, &ProofFormPage::draw);
  appear();
  first->setFocus();
}

QSize ProofFormPage::wanted() const {
  const int em = fontMetrics().averageCharWidth();
  return {150 * em, 36 * fontMetrics().height()};
}

void ProofFormPage::resizeEvent(QResizeEvent* event) {
  Page::resizeEvent(event);
  draw();
}

// Beside the window; only the newest counts.
void ProofFormPage::draw() {
  const double ratio = devicePixelRatioF();
  const QSize room = picture_->size() * ratio;
  worker_.request([this, document = session_.document(), form = form_, room, ratio](const std::stop_token& stop) {
    const Result<DrawnPage> page = proof_page(document, session_.evaluator(), form, stop);
    if (stop.stop_requested())
      return;
    QImage image;
    QString problem;
    if (page.ok()) {
      const double k = std::min(room.width() / page->frame.width(), room.height() / page->frame.height());
      const Result<std::string> png = write_png(*page, std::max(1, static_cast<int>(page->frame.width() * k)));
      if (png.ok())
        image.loadFromData(QByteArray::fromStdString(*png));
    } else {
      problem = words_of(page.error());
    }
    if (!image.isNull()) { // the paper's edge
      QPainter painter(&image);
      painter.setPen(QPen(QColor(0xcf, 0xc9, 0xbb), 1));
      painter.drawRect(image.rect().adjusted(0, 0, -1, -1));
    }
    mailbox_.post([this, image, problem, ratio] {
      QPixmap shown = QPixmap::fromImage(image);
      shown.setDevicePixelRatio(ratio);
      picture_->setPixmap(shown);
      if (!problem.isEmpty())
        picture_->setText(problem);
    });
  });
}

} // namespace frelm
