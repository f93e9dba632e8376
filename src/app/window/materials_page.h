// The job's materials: name, colour, size of the sheet or roll, what can be cut of it, and whether it is cut mirrored.
// Changes are steps of the job; the list can be kept as what new jobs begin with.
#pragma once

#include "app/cards/card.h"
#include "app/window/page.h"

class QCheckBox;
class QComboBox;
class QSettings;

namespace frelm {

// What the user has kept, else the shipped list.
std::vector<Material> own_materials(const QSettings& settings);

class MaterialsPage : public Page {
  Q_OBJECT

public:
  MaterialsPage(Session& session, QSettings& settings, QWidget* over);

signals:
  void told(const QString& words);

protected:
  QSize wanted() const override;

private:
  struct Fields {
    QToolButton* colour = nullptr;
    QLineEdit* name = nullptr;
    MeasureField *width = nullptr, *length = nullptr, *stroke = nullptr, *gap = nullptr;
    QCheckBox* mirrored = nullptr;
    QToolButton* gone = nullptr;
  };
  void refresh();
  void build();
  Fields new_fields(std::size_t at);
  QWidget* new_machine_row();
  bool eventFilter(QObject* object, QEvent* event) override;
  void change(std::size_t at, const QString& step, const std::function<void(Material&)>& edit, bool stepped = false);

  Session& session_;
  QSettings& settings_;
  QWidget* table_ = nullptr;
  class QScrollArea* scroll_;
  std::vector<Fields> rows_;
  std::size_t chosen_ = 0; // the row that had the focus last: what cuts it stands below the list
  QLabel* chosen_name_ = nullptr;
  QComboBox* machine_ = nullptr;
  MeasureField *nodes_ = nullptr, *apart_ = nullptr;
};

} // namespace frelm
