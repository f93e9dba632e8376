// What leaves, as which file: the Cut check's open findings first, then which materials go and what stays, the format
// with the few things that can be said of it, the size in plain words, and the file. The choice is the page's; nothing
// of the job changes.
#pragma once

#include "app/cards/card.h"
#include "app/window/file_row.h"
#include "app/window/page.h"
#include "formats/export.h"

class QCheckBox;
class QVBoxLayout;

namespace frelm {

class ExportPage : public Page {
  Q_OBJECT

public:
  // choice: with one path.
  ExportPage(Session& session, ExportChoice choice, QWidget* over);
  const ExportChoice& choice() const { return choice_; }

signals:
  void wanted_out(); // with choice(); the page stays until it is out
  void look_at_findings();

protected:
  QSize wanted() const override;

private:
  QWidget* options_of(const ExportFormat& format);
  FileRow* file_row();
  void choose_format(int index);
  void show_options(int format);
  bool goes(Colour colour) const;
  void refresh();
  void show_materials();

  Session& session_;
  ExportChoice choice_;
  QLabel* findings_;
  QWidget* findings_row_;
  QVBoxLayout* materials_;
  std::vector<std::pair<Colour, QCheckBox*>> boxes_;
  QCheckBox *knife_, *pen_, *split_;
  QLabel *stays_, *size_;
  ChoiceRow* format_;
  std::vector<QWidget*> options_; // of each format, in the table's order
  FileRow* file_ = nullptr;
  QPushButton* go_;
};

} // namespace frelm
