#include "app/window/help_page.h"

#include "app/start.h"

#include <QDir>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLineEdit>
#include <QListWidget>
#include <QRegularExpression>
#include <QVBoxLayout>

namespace frelm {
namespace {

const QString job_prefix = "how-";

// Pictures lie beside the pages of an installed program, among the documents of the source tree.
class HelpBrowser final : public QTextBrowser {
public:
  QVariant loadResource(int type, const QUrl& name) override {
    if (type != QTextDocument::ImageResource)
      return {};
    const QString file = QFileInfo(name.path()).fileName(), pages = data_folder("help");
    QImage image;
    for (const char* folder : {"/pictures/", "/../../docs/screenshots/"})
      if (image.load(pages + folder + file))
        break;
    const int room = std::max(200, viewport()->width() - 24);
    return image.width() > room ? image.scaledToWidth(room, Qt::SmoothTransformation) : image;
  }
};

int rank(const QString& id) { // jobs, tools, cards, the rest
  const QStringList order{job_prefix, "tool-", "card-"};
  for (int i = 0; i < order.size(); ++i)
    if (id.startsWith(order[i]))
      return i;
  return static_cast<int>(order.size());
}

HelpText read_text(const QFileInfo& file) {
  QFile in(file.filePath());
  QString all = in.open(QIODevice::ReadOnly) ? QString::fromUtf8(in.readAll()) : QString();
  HelpText out{file.completeBaseName(), {}, {}, {}};
  static const QRegularExpression title("^# (.*)\n"), words("<!--(.*)-->\n");
  if (const auto m = title.match(all); m.hasMatch())
    out.title = m.captured(1), all.remove(m.capturedStart(), m.capturedLength());
  if (const auto m = words.match(all); m.hasMatch())
    out.words = m.captured(1).trimmed(), all.remove(m.capturedStart(), m.capturedLength());
  out.text = all;
  return out;
}

} // namespace

std::vector<HelpText> help_texts() {
  std::vector<HelpText> out;
  for (const QFileInfo& file : QDir(data_folder("help")).entryInfoList({"*.md"}, QDir::Files))
    out.push_back(read_text(file));
  std::sort(out.begin(), out.end(), [](const HelpText& a, const HelpText& b) {
    return rank(a.id) != rank(b.id) ? rank(a.id) < rank(b.id) : a.title < b.title;
  });
  return out;
}

QString help_about(const QWidget* focus, const QString& otherwise) {
  static const std::map<QByteArray, QString> pages{
      {"LettersCard", "card-letters"},   {"BendCard", "card-bend"},
      {"SpacingCard", "card-spacing"},   {"FinishCard", "card-finish"},
      {"LetterCard", "card-letters"},    {"OutlineCard", "card-outline"},
      {"ManyCard", "card-several"},      {"CopiesCard", "card-copies"},
      {"TieInCard", "card-tie-in"},      {"TraceCard", "card-trace"},
      {"MeasureCard", "tool-measure"},   {"BackingCard", "card-backing"},
      {"CameInCard", "card-came-in"},    {"RulerLinesCard", "card-ruler-lines"},
      {"GuideCard", "tool-guide"},       {"GuideKindCard", "tool-guide"},
      {"NodesCard", "tool-nodes"},       {"LineToolCard", "tool-snip"},
      {"MachineCard", "view-knife"},     {"OrderCard", "view-knife"},
      {"TimeStrip", "view-knife"},       {"SendCard", "how-send"},
      {"NamesCard", "view-names"},       {"NamesView", "view-names"},
      {"LogPage", "how-send"},           {"StartCard", "how-badge"},
      {"JobsCard", "how-badge"},         {"SheetCard", "page-materials"},
      {"GapStrip", "gap-strip"},         {"CheckPanel", "cut-check"},
      {"PiecesPanel", "pieces"},         {"ExportPage", "page-export"},
      {"ProofFormPage", "how-customer"}, {"MaterialsPage", "page-materials"},
      {"HistoryPage", "page-steps"}};
  for (const QWidget* w = focus; w != nullptr; w = w->parentWidget()) {
    const QByteArray name = QByteArray(w->metaObject()->className()).replace("frelm::", "");
    if (const auto it = pages.find(name); it != pages.end())
      return it->second;
  }
  return otherwise;
}

HelpPage::HelpPage(const QString& id, QWidget* over)
    : Page(tr("Help"), tr("Back to the sheet"), over), texts_(help_texts()), field_(new QLineEdit),
      list_(new QListWidget), text_(new HelpBrowser) {
  field_->setPlaceholderText(tr("arch, border, template…"));
  field_->setAccessibleName(tr("A word of the page"));
  field_->setClearButtonEnabled(true);
  field_->installEventFilter(this);
  list_->setAccessibleName(tr("Pages"));
  list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  list_->setWordWrap(true);
  list_->setSpacing(1);
  text_->setAccessibleName(tr("Help"));
  text_->setOpenLinks(false);
  text_->setFrameShape(QFrame::NoFrame);
  text_->viewport()->setAutoFillBackground(false);
  text_->setObjectName("plain"); // on the page's own ground
  auto* side = new QVBoxLayout;
  side->addWidget(field_);
  side->addWidget(list_, 1);
  auto* row = new QHBoxLayout;
  row->setSpacing(12);
  row->addLayout(side, 3);
  row->addWidget(text_, 5);
  body()->addLayout(row, 1);
  connect(field_, &QLineEdit::textChanged, this, &HelpPage::fill);
  connect(list_, &QListWidget::currentItemChanged, this, [this](const QListWidgetItem* item) {
    if (item != nullptr)
      show_text(item->data(Qt::UserRole).toString());
  });
  connect(text_, &QTextBrowser::anchorClicked, this,
          [this](const QUrl& to) { show_text(QFileInfo(to.path()).completeBaseName()); });
  fill();
  appear();
  show_text(id);
  field_->setFocus();
}

QSize HelpPage::wanted() const {
  return {110 * fontMetrics().averageCharWidth(), 4000}; // as high as there is room
}

void HelpPage::fill() {
  const QStringList words = field_->text().split(' ', Qt::SkipEmptyParts);
  const QSignalBlocker quiet(list_);
  list_->clear();
  const QStringList headings{tr("Whole jobs"), tr("Tools"), tr("Cards"), tr("The rest")};
  int under = -1;
  for (const HelpText& t : texts_) {
    const QString all = t.title + " " + t.words + " " + t.text;
    if (std::all_of(words.begin(), words.end(),
                    [&](const QString& w) { return all.contains(w, Qt::CaseInsensitive); })) {
      if (words.isEmpty() && rank(t.id) != under) {
        under = rank(t.id);
        auto* heading = new QListWidgetItem(headings[under], list_);
        heading->setFlags(Qt::NoItemFlags);
      }
      auto* item = new QListWidgetItem(t.title, list_);
      item->setData(Qt::UserRole, t.id);
      if (t.id == shown_)
        list_->setCurrentItem(item);
    }
  }
  if (list_->count() == 0) {
    auto* none = new QListWidgetItem(tr("No page has this word"), list_);
    none->setFlags(Qt::NoItemFlags);
  } else if (list_->currentRow() < 0 && !words.isEmpty()) {
    list_->setCurrentRow(0);
    show_text(list_->item(0)->data(Qt::UserRole).toString());
  }
}

void HelpPage::show_text(const QString& id) {
  const auto it = std::find_if(texts_.begin(), texts_.end(), [&](const HelpText& t) { return t.id == id; });
  if (it == texts_.end() || id == shown_)
    return;
  shown_ = id;
  text_->setMarkdown("## " + it->title + "\n\n" + it->text);
  for (int i = 0; i < list_->count(); ++i)
    if (list_->item(i)->data(Qt::UserRole).toString() == id) {
      const QSignalBlocker quiet(list_);
      list_->setCurrentRow(i);
    }
}

bool HelpPage::eventFilter(QObject* object, QEvent* event) {
  if (object == field_ && event->type() == QEvent::KeyPress) {
    const int key = static_cast<QKeyEvent*>(event)->key();
    if (key == Qt::Key_Up || key == Qt::Key_Down || key == Qt::Key_PageUp || key == Qt::Key_PageDown) {
      const int by = key == Qt::Key_Up || key == Qt::Key_PageUp ? -1 : 1;
      int row = list_->currentRow() + by;
      while (row >= 0 && row < list_->count() && !(list_->item(row)->flags() & Qt::ItemIsSelectable))
        row += by; // past a heading
      if (row >= 0 && row < list_->count())
        list_->setCurrentRow(row);
      return true;
    }
  }
  return Page::eventFilter(object, event);
}

} // namespace frelm
