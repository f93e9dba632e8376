// Cards about guides and parts: a guide's measures, which kind the Guide tool draws, nodes, and a single letter.
#pragma once

#include "app/cards/finish_part.h"
#include "document/outline_edits.h"

#include <QCheckBox>
#include <QLineEdit>
#include <QPushButton>
#include <map>

namespace frelm {

class GuideCard : public Card {
  Q_OBJECT
public:
  explicit GuideCard(Session& session, QWidget* parent = nullptr);
  void refresh() override;
  void restyle() override;
  FinishPart& steps() { return *steps_; }
signals:
  void edit_nodes();
  void letter_it(const QString& words); // on this guide

private:
  void edit_shape(const QString& name, bool stepped, const std::function<void(GuideShape&)>& change);
  const std::vector<MeasureField*>& fields_of(const GuideShape& shape);

  std::map<std::size_t, std::vector<MeasureField*>> fields_; // by kind, made when first shown
  QGridLayout* measures_ = nullptr;
  ChoiceRow *use_, *winding_, *form_, *holes_, *ends_;
  QCheckBox *closed_, *folds_;
  QLabel* used_;
  QPushButton *nodes_, *reverse_;
  QLineEdit* words_;
  FinishPart* steps_; // of a shape
};

// What the Guide tool draws.
class GuideKindCard : public Card {
  Q_OBJECT
public:
  explicit GuideKindCard(Session& session, QWidget* parent = nullptr);
  void refresh() override {}
  void restyle() override;
  void show_kind(std::size_t kind);
signals:
  void chosen(std::size_t kind);

private:
  QButtonGroup group_;
  ChoiceRow* use_;
  QLabel* how_;
};

// "Line", "Pen curve" …: what the kind with this index of GuideShape is called.
QString guide_kind_name(std::size_t kind);

enum class NodeCommand {
  Add,
  Delete,
  Corner,
  Smooth,
  Even,
  Straight,
  Curved,
  Break,
  Join,
  Close,
  Reverse,
  StartHere,
  Sand,
  Stretch
};
QString node_command_name(NodeCommand command);

class NodesCard : public Card {
  Q_OBJECT
public:
  explicit NodesCard(Session& session, QWidget* parent = nullptr);
  void refresh() override;
signals:
  void command(NodeCommand command);

private:
  QLabel* about_;
  std::map<NodeCommand, QPushButton*> buttons_;
};

} // namespace frelm
