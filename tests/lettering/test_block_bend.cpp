// Blocks warped: profiles against formulas written out here, faces as outlines against dense images of those formulas.
#include "lettering/bent_text.h"
#include "lettering/evaluate.h"
#include "lettering/gaps.h"
#include "support/compare.h"
#include "support/fill_shapes.h"

#include <QTest>
#include <numbers>

using namespace frelm;
using namespace frelm::test;

namespace {

constexpr double bound = 0.005; // mm, docs/accuracy.md

Recipe recipe_of(const std::string& text, FaceName face, double size = 40) {
  Recipe r;
  r.source = letters_of(text, std::move(face), size, SizeBy::Capitals);
  r.finish.steps.clear();
  return r;
}
std::shared_ptr<const SeatedText> seated(const Recipe& r, const BendGuides& guides = {}, Placement at = {}) {
  const auto e = evaluate(r, at, guides, bundled_faces(), {Depth::Seat, nullptr, {}});
  if (!e)
    qFatal("%s", e.error().text().c_str());
  return e->seated;
}
Outline together(const SeatedText& text) {
  Outline out;
  for (const Outline& o : letter_outlines(text))
    out.append(o);
  return out;
}
// The straight letters, and their box.
struct Straight {
  Outline outline;
  Box box;
};
Straight straight(Recipe r) {
  r.bend.kind = BendKind::Straight;
  Straight s{together(*seated(r)), {}};
  s.box = s.outline.bounds();
  return s;
}
template <class Map> std::vector<Ring> image(const Outline& outline, const Map& map, int places = 160) {
  std::vector<Ring> rings;
  for (const Contour& c : outline.contours) {
    Ring ring;
    for (const Segment& s : c.segments)
      for (int i = 0; i < places; ++i)
        ring.push_back(map(s.at(static_cast<double>(i) / places)));
    rings.push_back(std::move(ring));
  }
  return rings;
}

// Heights of an edge by hand: depth in mm.
double by_hand(const RailProfile& p, double depth, double width, double u) {
  using std::numbers::pi;
  switch (p.kind) {
  case ProfileKind::Arch:
  case ProfileKind::Dip: {
    // The circle through (0, 0), (width/2, depth) and (width, 0).
    const double r = (width * width / 4 + depth * depth) / (2 * depth), x = u * width - width / 2;
    const double up = std::sqrt(r * r - x * x) - (r - depth);
    return p.kind == ProfileKind::Arch ? up : -up;
  }
  case ProfileKind::Wave:
    return depth * std::sin(2 * pi * (p.periods * u + p.phase / 360));
  case ProfileKind::Peak: {
    const double c = 0.5 + p.phase / 100;
    return depth * std::min(u / c, (1 - u) / (1 - c));
  }
  case ProfileKind::Ramp:
    return depth * u;
  case ProfileKind::Straight:
  case ProfileKind::Guide:
    break;
  }
  return 0;
}

RailProfile profile(ProfileKind kind, double depth, double periods = 1, double phase = 0) {
  return {kind, depth, periods, phase};
}

struct ProfileRow {
  const char* name;
  RailEdge top, bottom;
  EdgeLink link;
};
std::vector<ProfileRow> profile_rows() {
  using enum ProfileKind;
  return {{"arch", {{}, profile(Arch, 60), {}}, {}, EdgeLink::Same},
          {"dip under arch", {{}, profile(Arch, 60), {}}, {{}, profile(Dip, 40), {}}, EdgeLink::Free},
          {"arch and mirrored", {{}, profile(Arch, 40), {}}, {}, EdgeLink::Mirrored},
          {"wave, two periods and a phase", {{}, profile(Wave, 15, 2, 50), {}}, {}, EdgeLink::Same},
          {"wave over a straight edge", {{}, profile(Wave, 20, 1.5), {}}, {}, EdgeLink::Free},
          {"peak off the middle", {{}, profile(Peak, 50, 1, 12), {}}, {}, EdgeLink::Same},
          {"ramp", {{}, profile(Ramp, 60), {}}, {}, EdgeLink::Free},
          {"arch and wave added up", {{}, profile(Arch, 45), profile(Wave, 10, 3)}, {}, EdgeLink::Same},
          {"dip, bottom only", {}, {{}, profile(Dip, 55), {}}, EdgeLink::Free}};
}

} // namespace

class TestBlockBend : public QObject {
  Q_OBJECT

private slots:
  void profiles_match_their_formulas_data() {
    QTest::addColumn<int>("row");
    QTest::addColumn<QString>("family");
    QTest::addColumn<QString>("style");
    const std::pair<const char*, const char*> faces[]{
        {"Lato", "Regular"},           {"Dancing Script", "Bold"}, {"Roboto Slab", "Bold"},    {"Cabin", "Bold"},
        {"Bebas Neue", "Regular"},     {"Quicksand", "Bold"},      {"League Spartan", "Bold"}, {"Lobster Two", "Bold"},
        {"Kaushan Script", "Regular"}, {"Amiri", "Regular"}};
    const auto rows = profile_rows();
    for (std::size_t f = 0; f < (sanitized ? 1 : std::size(faces)); ++f)
      for (std::size_t i = 0; i < rows.size(); ++i)
        QTest::addRow("%s, %s", rows[i].name, faces[f].first)
            << static_cast<int>(i) << QString(faces[f].first) << QString(faces[f].second);
  }
  void profiles_match_their_formulas() {
    QFETCH(int, row);
    QFETCH(QString, family);
    QFETCH(QString, style);
    const ProfileRow p = profile_rows()[static_cast<std::size_t>(row)];
    Recipe r = recipe_of("Swag 8", {family.toStdString(), style.toStdString()});
    const Straight s = straight(r);
    r.bend.kind = BendKind::Rails;
    r.bend.rails.top = p.top, r.bend.rails.bottom = p.bottom, r.bend.rails.link = p.link;
    const auto text = seated(r);
    const double w = s.box.width(), h = s.box.height();
    const auto edge = [&](const RailEdge& e, double u) {
      return by_hand(e.first, e.first.depth / 100 * h, w, u) + by_hand(e.plus, e.plus.depth / 100 * h, w, u);
    };
    const auto map = [&](Point q) {
      const double u = (q.x - s.box.x0) / w, v = (q.y - s.box.y0) / h;
      const double top = edge(p.top, u);
      const double bottom = p.link == EdgeLink::Same ? top : p.link == EdgeLink::Mirrored ? -top : edge(p.bottom, u);
      return Point{q.x, (1 - v) * (s.box.y0 - top) + v * (s.box.y1 - bottom)};
    };
    const Outline got = together(*text);
    const double off = boundary_distance(rings_of(got, 2e-4),
                                         image(s.outline, map, p.top.first.kind == ProfileKind::Peak ? 900 : 160));
    QVERIFY2(off <= bound, qPrintable(QString::number(off)));
    QCOMPARE(text->bent->report.folds, std::size_t{0});
    QCOMPARE(closed_fault(got), std::string());
    // Smooth joints stay smooth, but for those under a peak's corner.
    if (p.top.first.kind != ProfileKind::Peak)
      QVERIFY(corner_count(got, 1) <= corner_count(s.outline, 0.5));
    // What is shown during a drag is close to what comes.
    const auto sketch = evaluate(r, {}, nullptr, bundled_faces(),
                                 {.depth = Depth::Seat, .cache = nullptr, .stop = {}, .sketch_warps = true});
    QVERIFY(sketch->seated->provisional() && !text->provisional());
    const double sketched = boundary_distance(rings_of(together(*sketch->seated), 1e-3), rings_of(got, 1e-3));
    const bool kinks = p.top.first.kind == ProfileKind::Peak; // its corner is not looked for while the hand moves
    QVERIFY2(sketched < (kinks ? 1 : 0.3), qPrintable(QString::number(sketched)));
  }

  void straight_edges_give_the_letters_back() {
    Recipe r = recipe_of("Rag & 8", {"Lato", "Regular"});
    const Straight s = straight(r);
    r.bend.kind = BendKind::Rails;
    r.bend.rails.top = r.bend.rails.bottom = {};
    for (const Verticals v : {Verticals::Kept, Verticals::Follow}) {
      r.bend.rails.verticals = v;
      const auto text = seated(r);
      QCOMPARE(text->bent->report.nodes_out, s.outline.node_count());
      QVERIFY(boundary_distance(rings_of(together(*text), 1e-3), rings_of(s.outline, 1e-3)) < 1e-6);
      QVERIFY(std::abs(text->bent->stretch.narrowest - 1) < 1e-9 && std::abs(text->bent->stretch.widest - 1) < 1e-9);
    }
    // Two equal ramps shear the block: an affine map adds no node.
    r.bend.rails.verticals = Verticals::Kept;
    r.bend.rails.top.first = profile(ProfileKind::Ramp, 50);
    const auto sheared = seated(r);
    QCOMPARE(sheared->bent->report.nodes_out, s.outline.node_count());
    const double slope = 0.5 * s.box.height() / s.box.width();
    QVERIFY(std::abs(sheared->bent->stretch.steepest_shear - std::atan(slope)) < 1e-6);
  }

  void the_placement_moves_and_turns_the_block() {
    Recipe r = recipe_of("WAKE", {"Cabin", "Bold"});
    r.bend.kind = BendKind::Rails;
    const auto home = seated(r), away = seated(r, {}, {{120, 80}, 30});
    const Affine m = Affine::translation({120, 80}) * Affine::rotation(radians(30));
    QVERIFY(boundary_distance(rings_of(together(*away), 1e-3), rings_of(together(*home).transformed(m), 1e-3)) < 0.01);
  }

  void edges_that_are_concentric_arcs_give_the_polar_map() {
    Recipe r = recipe_of("HARBOUR", {"League Spartan", "Bold"});
    const Straight s = straight(r);
    r.bend.kind = BendKind::Rails;
    r.bend.rails.link = EdgeLink::Free;
    r.bend.rails.verticals = Verticals::Follow;
    r.bend.rails.top.first.kind = r.bend.rails.bottom.first.kind = ProfileKind::Guide;
    BendGuides guides;
    guides.top = line_of(ArcGuide{{300, 300}, 150, -50, 100});
    guides.bottom = line_of(ArcGuide{{300, 300}, 110, -50, 100});
    const auto text = seated(r, guides);
    const auto polar = [&](Point q) {
      const double a = (-50 + 100 * (q.x - s.box.x0) / s.box.width()) * std::numbers::pi / 180;
      const double radius = 150 - 40 * (q.y - s.box.y0) / s.box.height();
      return Point{300 + radius * std::sin(a), 300 - radius * std::cos(a)};
    };
    QVERIFY(boundary_distance(rings_of(together(*text), 2e-4), image(s.outline, polar)) <= bound);
  }

  void one_guide_carries_the_other_edge_at_the_letters_height() {
    Recipe r = recipe_of("KEEL", {"Cabin", "Bold"});
    const Straight s = straight(r);
    r.bend.kind = BendKind::Rails;
    r.bend.rails.link = EdgeLink::Free;
    r.bend.rails.top.first.kind = ProfileKind::Guide;
    r.bend.rails.bottom = {};
    BendGuides guides;
    guides.top = line_of(LineGuide{{400, 50}, {100, 50}}); // drawn from the right: edges run from the left all the same
    const auto text = seated(r, guides);
    const double k = 300 / s.box.width();
    QVERIFY(std::abs(text->ink.x0 - 100) < 1e-6 && std::abs(text->ink.x1 - 400) < 1e-6);
    QVERIFY(std::abs(text->ink.y0 - 50) < 1e-6 && std::abs(text->ink.height() - k * s.box.height()) < 1e-6);
    QVERIFY(std::abs(text->bent->stretch.widest - 1) < 1e-9); // as large as that, the strokes are what they were
  }

  void tapers_lower_an_end_and_narrow_a_side() {
    Recipe r = recipe_of("HHHHHH", {"Cabin", "Bold"});
    const Straight s = straight(r);
    r.bend.kind = BendKind::Rails;
    r.bend.rails.top = r.bend.rails.bottom = {};
    r.bend.rails.taper_along = 40;
    const auto low_left = seated(r);
    const auto& heights = low_left->bent->heights;
    QCOMPARE(heights.size(), std::size_t{6});
    for (std::size_t i = 1; i < heights.size(); ++i)
      QVERIFY(heights[i] > heights[i - 1]);
    QVERIFY(std::abs(low_left->bent->made.map.at({s.box.x0, s.box.y0}).point.y - (s.box.y0 + 0.2 * s.box.height())) <
            1e-9);
    r.bend.rails.taper_along = 0, r.bend.rails.taper_across = 50;
    const auto keystone = seated(r);
    const WarpMap& map = keystone->bent->made.map;
    QVERIFY(std::abs(map.at({s.box.x1, s.box.y1}).point.x - map.at({s.box.x0, s.box.y1}).point.x -
                     0.5 * s.box.width()) < 1e-9);
    QVERIFY(std::abs(map.at({s.box.x1, s.box.y0}).point.x - map.at({s.box.x0, s.box.y0}).point.x - s.box.width()) <
            1e-9);
    // A stem of an H stays straight: four-sided, no nodes added.
    QCOMPARE(keystone->bent->report.nodes_out, s.outline.node_count());
    r.bend.rails.taper_across = 95;
    QVERIFY(!evaluate(r, {}, nullptr, bundled_faces(), {Depth::Seat, nullptr, {}}).ok());
  }

  // ---- filled shapes
  void filled_letters_reach_the_edges_of_the_shape() {
    Recipe r = recipe_of("WAKE", {"Bebas Neue", "Regular"});
    r.bend.kind = BendKind::Rails;
    r.bend.rails.into = RailsInto::Shape;
    const BendGuides half_disc(line_of(PathGuide{
        {{Segment::line({0, 150}, {300, 150}), Segment::cubic({300, 150}, {300, -50}, {0, -50}, {0, 150})}, true}}));
    const auto text = seated(r, half_disc);
    QCOMPARE(text->bent->report.folds, std::size_t{0});
    const Outline got = together(*text);
    QVERIFY(std::abs(got.bounds().y1 - 150) < 0.01); // feet on the straight side
    const std::vector<Ring> edge = rings_of({{half_disc.line->curve->contour(1e-4)}}, 1e-3);
    const BoundaryDistance to_edge(edge);
    const Straight s = straight(r);
    int reaching = 0;
    for (const Contour& c : s.outline.contours)
      for (const Segment& g : c.segments)
        if (g.is_line() && g.p0.y == g.p3.y && (g.p0.y == s.box.y0 || g.p0.y == s.box.y1)) {
          QVERIFY(to_edge(text->bent->made.map.at(g.at(0.4)).point) < 0.01);
          ++reaching;
        }
    QVERIFY(reaching > 4);
  }
  void natural_letters_keep_their_proportions_in_a_rectangle() {
    Recipe r = recipe_of("WAKE", {"Bebas Neue", "Regular"});
    const Straight s = straight(r);
    r.bend.kind = BendKind::Rails;
    r.bend.rails.into = RailsInto::Shape;
    r.bend.rails.fill.height = FillHeight::Natural;
    const auto frame = [](double w, double h) { return BendGuides(line_of(FrameGuide{{200, 200}, w, h, 0, 0})); };
    const double aspect = s.box.width() / s.box.height();
    const auto tall = seated(r, frame(200, 180)); // more room above and below: as wide as the shape
    QVERIFY(std::abs(tall->ink.width() - 200) < 1e-6 && std::abs(tall->ink.height() - 200 / aspect) < 1e-6);
    QVERIFY(distance(tall->ink.centre(), {200, 200}) < 1e-6);
    const auto flat = seated(r, frame(400, 30)); // too little: as high as the shape
    QVERIFY(std::abs(flat->ink.height() - 30) < 1e-6 && std::abs(flat->ink.width() - 30 * aspect) < 1e-6);
    QVERIFY(std::abs(flat->bent->stretch.widest - flat->bent->stretch.narrowest) < 1e-6);
  }
  void corners_of_a_filled_shape_can_be_moved() {
    Recipe r = recipe_of("HH", {"Cabin", "Bold"});
    r.bend.kind = BendKind::Rails;
    r.bend.rails.into = RailsInto::Shape;
    const BendGuides frame(line_of(FrameGuide{{200, 200}, 200, 100, 0, 0}));
    const auto found = seated(r, frame);
    const double around = 600;
    std::array<double, 4> corners = found->bent->made.target->corners;
    for (double& c : corners)
      c /= around;
    std::rotate(corners.begin(), corners.begin() + 1, corners.end()); // a quarter further round: letters stand sideways
    r.bend.rails.fill.corners = corners;
    const auto turned = seated(r, frame);
    const Vec along = turned->bent->made.map.at(turned->bent->made.block.centre()).dx;
    QVERIFY(std::abs(along.x) < 1e-9 && along.y > 0);
  }
  void a_margin_keeps_letters_off_the_edge() {
    Recipe r = recipe_of("WAKE", {"Bebas Neue", "Regular"});
    r.bend.kind = BendKind::Rails;
    r.bend.rails.into = RailsInto::Shape;
    r.bend.rails.fill.margin = 10;
    const BendGuides frame(line_of(FrameGuide{{200, 200}, 200, 100, 0, 0}));
    const auto text = seated(r, frame);
    QVERIFY(std::abs(text->ink.x0 - 110) < 0.02 && std::abs(text->ink.x1 - 290) < 0.02);
    QVERIFY(std::abs(text->ink.y0 - 160) < 0.02 && std::abs(text->ink.y1 - 240) < 0.02);
    // Corners by hand are places of the shape itself, so that another margin leaves them where they are.
    std::array<double, 4> corners{0.02, 0.32, 0.5, 0.82};
    const auto place = [&](double margin) {
      r.bend.rails.fill.margin = margin, r.bend.rails.fill.corners = corners;
      const auto bent = seated(r, frame);
      return bent->bent->made.map.at({bent->bent->made.block.x0, bent->bent->made.block.y0}).point;
    };
    QVERIFY(distance(place(0), place(3)) < 5 && distance(place(0), place(3)) > 2.9);
    r.bend.rails.fill.margin = 60;
    QVERIFY(QString::fromStdString(evaluate(r, {}, frame, bundled_faces(), {Depth::Seat, nullptr, {}}).error().text())
                .contains("margin"));
  }
  // Every letter from edge to edge, stems vertical within 0.01 degrees, no folds, nodes as between rails.
  void letters_fill_upright_data() {
    QTest::addColumn<QString>("path");
    QTest::addColumn<QString>("family");
    QTest::addColumn<QString>("style");
    const std::pair<const char*, const char*> shapes[]{
        {"half disc", half_disc}, {"ribbon", ribbon}, {"crescent", crescent}, {"blob", blob}, {"notched", notched}};
    const std::pair<const char*, const char*> faces[]{{"Bebas Neue", "Regular"},
                                                      {"Cabin", "Bold"},
                                                      {"League Spartan", "Bold"},
                                                      {"Roboto Slab", "Regular"},
                                                      {"Lato", "Regular"}};
    for (const auto& [shape, path] : shapes)
      for (const auto& [family, style] : faces)
        QTest::addRow("%s, %s", shape, family) << QString(path) << QString(family) << QString(style);
  }
  void letters_fill_upright() {
    QFETCH(const QString, path);
    QFETCH(const QString, family);
    QFETCH(const QString, style);
    const Contour shape = shape_of(path.toStdString());
    Recipe r = recipe_of("HOTEL-6x", {family.toStdString(), style.toStdString()});
    r.bend.kind = BendKind::Rails;
    r.bend.rails.into = RailsInto::Shape;
    r.bend.rails.fill.style = FillStyle::Upright;
    r.bend.rails.fill.upright.ends = {0.6, 0.5};
    const auto text = seated(r, BendGuides(line_of(PathGuide{shape})));
    QCOMPARE(text->bent->report.folds, std::size_t{0});
    QVERIFY2(text->bent->report.nodes_out <= text->bent->report.nodes_in * 3 / 2 + 4,
             qPrintable(QString("%1 of %2").arg(text->bent->report.nodes_out).arg(text->bent->report.nodes_in)));
    const ShapeEdges edges(shape);
    std::size_t stems = 0;
    const std::vector<Outline> letters = letter_outlines(*text);
    for (std::size_t i = 0; i < letters.size(); ++i) {
      double over = 1e9, under = 1e9;
      for (const Ring& ring : rings_of(letters[i], 0.002))
        for (const Point p : ring) {
          const auto [top, bottom] = edges.at(p.x);
          over = std::min(over, p.y - top), under = std::min(under, bottom - p.y);
        }
      const bool hyphen = i == 5;
      QVERIFY2(hyphen ? over > 5 && under > 5 : std::abs(over) < 0.01 && std::abs(under) < 0.01,
               qPrintable(QString("letter %1: %2 %3").arg(i).arg(over).arg(under)));
      // As many uprights as the face has.
      const auto uprights = [](const Outline& o, double within) {
        std::size_t n = 0;
        for (const Contour& c : o.contours)
          for (const Segment& s : c.segments)
            n += s.is_line() && std::abs(s.p3.x - s.p0.x) <= std::tan(radians(within)) * std::abs(s.p3.y - s.p0.y);
        return n;
      };
      const std::size_t had = uprights(*text->letters[i].plain, 1e-6);
      QVERIFY(uprights(letters[i], 0.01) >= had);
      stems += had;
    }
    QVERIFY(stems >= 10);
  }
  // Lines of a text each keep their part of the height; a letter moved by hand stays as it is moved.
  void lines_and_hands_in_an_upright_fill() {
    Recipe r = recipe_of("HxH\nHxH", {"Cabin", "Bold"});
    r.bend.kind = BendKind::Rails;
    r.bend.rails.into = RailsInto::Shape;
    r.bend.rails.fill.style = FillStyle::Upright;
    const BendGuides frame(line_of(FrameGuide{{200, 200}, 200, 100, 0, 0}));
    const auto text = seated(r, frame);
    const auto box = [](const SeatedText& t, std::size_t i) { return t.letters[i].shape->bounds(); };
    QVERIFY(std::abs(box(*text, 1).height() - box(*text, 0).height()) < 1e-6); // x as high as H
    QVERIFY(box(*text, 2).y1 < box(*text, 4).y0);
    QVERIFY(std::abs(text->ink.y0 - 150) < 1e-6 && std::abs(text->ink.y1 - 250) < 1e-6);
    r.tweaks.push_back({r.letters()->text[1].id, 0, 1, 0, 0.1});
    const auto moved = seated(r, frame);
    QVERIFY(box(*moved, 1).height() < 0.9 * box(*moved, 0).height());
  }

  void what_cannot_be_filled_or_followed_is_named_data() {
    QTest::addColumn<int>("which");
    QTest::addColumn<QString>("says");
    QTest::newRow("open shape") << 0 << "open";
    QTest::newRow("crossing shape") << 1 << "crosses itself";
    QTest::newRow("no shape") << 2 << "choose a closed shape";
    QTest::newRow("closed edge") << 3 << "Fill a shape";
    QTest::newRow("no guide") << 4 << "choose a guide";
    QTest::newRow("arch too deep") << 5 << "half its width";
  }
  void what_cannot_be_filled_or_followed_is_named() {
    QFETCH(int, which);
    QFETCH(QString, says);
    Recipe r = recipe_of("WAKE", {"Cabin", "Bold"});
    r.bend.kind = BendKind::Rails;
    BendGuides guides;
    if (which <= 2)
      r.bend.rails.into = RailsInto::Shape;
    else
      r.bend.rails.top.first.kind = ProfileKind::Guide;
    if (which == 0)
      guides.line = line_of(LineGuide{{0, 0}, {100, 0}});
    if (which == 1)
      guides.line = line_of(PathGuide{{{Segment::line({0, 0}, {100, 100}), Segment::line({100, 100}, {0, 100}),
                                        Segment::line({0, 100}, {100, 0}), Segment::line({100, 0}, {0, 0})},
                                       true}});
    if (which == 3)
      guides.top = line_of(CircleGuide{{0, 0}, 50, 0});
    if (which == 5)
      r.bend.rails.top.first = profile(ProfileKind::Arch, 400);
    const auto e = evaluate(r, {}, guides, bundled_faces(), {Depth::Seat, nullptr, {}});
    QVERIFY(!e.ok());
    QVERIFY2(QString::fromStdString(e.error().text()).contains(says), e.error().text().c_str());
  }

  // ---- nets
  void a_net_started_from_any_bend_changes_nothing() {
    const BendGuides circle(line_of(CircleGuide{{200, 200}, 120, 0}));
    for (const BendKind base : {BendKind::Straight, BendKind::Arc, BendKind::Guide, BendKind::Rails}) {
      Recipe r = recipe_of("Wake", {"Dancing Script", "Bold"});
      r.bend.kind = base;
      const Placement at{{150, 120}, 20};
      const auto before = seated(r, circle, at);
      r.bend.kind = BendKind::Net, r.bend.net.base = base;
      const auto same = [&](const NetBend& n) {
        r.bend.net.net = n.net;
        const auto now = seated(r, circle, at);
        return boundary_distance(rings_of(together(*before), 1e-4), rings_of(together(*now), 1e-4));
      };
      NetBend net{base, flat_net(3, 1), false};
      const double allowed = base == BendKind::Rails ? 0.005 : 0.001; // rails turned by 20° are fitted anew
      QVERIFY2(same(net) < allowed, qPrintable(QString::number(same(net))));
      net.net = with_line(with_line(net.net, NetLine::Column, 0.21), NetLine::Row, 0.5);
      QVERIFY(same(net) < allowed);
    }
  }
  void pulled_pegs_carry_the_letters() {
    Recipe r = recipe_of("HHHH", {"Cabin", "Bold"});
    const Straight s = straight(r);
    r.bend.kind = BendKind::Net;
    r.bend.net.net = pulled(flat_net(2, 1), {{1, {0, -15}}}); // the top edge's middle peg, up
    const auto text = seated(r);
    QVERIFY(std::abs(text->bent->made.map.at({s.box.centre().x, s.box.y0}).point.y - (s.box.y0 - 15)) < 1e-9);
    QVERIFY(std::abs(text->ink.y1 - s.box.y1) < 1e-9); // the bottom edge stays
    QVERIFY(text->ink.height() > s.box.height() + 5);
  }
  void folds_are_counted_with_their_place() {
    Recipe r = recipe_of("WAKE", {"Cabin", "Bold"});
    r.bend.kind = BendKind::Net;
    r.bend.net.net = pulled(flat_net(2, 1), {{1, {0, 90}}}); // the top edge below the bottom one
    const auto text = seated(r);
    QVERIFY(text->bent->report.folds > 0 && !text->bent->report.fold_box.empty());
  }

  void gaps_are_read_on_the_bent_letters() {
    Recipe r = recipe_of("HIGH", {"Cabin", "Bold"});
    const auto plain = seated(r);
    r.bend.kind = BendKind::Rails;
    r.bend.rails.top = r.bend.rails.bottom = {};
    const std::vector<Gap> before = measure_gaps(*plain), same = measure_gaps(*seated(r));
    QCOMPARE(before.size(), same.size());
    for (std::size_t i = 0; i < before.size(); ++i)
      QVERIFY(std::abs(before[i].optical - same[i].optical) < 0.01 && same[i].look == GapLook::Even);
    // A joined word stays joined under any warp.
    Recipe script = recipe_of("Marigold", {"Dancing Script", "Bold"});
    script.bend.kind = BendKind::Rails;
    script.bend.rails.top.first = profile(ProfileKind::Wave, 30, 2);
    for (const Gap& g : measure_gaps(*seated(script)))
      if (g.target_depth)
        QVERIFY2(g.look == GapLook::Joined, qPrintable(QString::number(static_cast<int>(g.look))));
  }

  void several_lines_are_one_block() {
    Recipe r = recipe_of("SALTMARSH\nBOAT\nWORKS", {"Bebas Neue", "Regular"});
    r.letters()->equal_width = true, r.letters()->line_pitch = 1.08;
    const Straight s = straight(r);
    r.bend.kind = BendKind::Rails;
    const auto text = seated(r);
    QVERIFY(std::abs(text->ink.width() - s.box.width()) < 0.01);
    QVERIFY(text->ink.height() > s.box.height());
    // A stop ends the work.
    std::stop_source stop;
    stop.request_stop();
    QCOMPARE(evaluate(r, {}, nullptr, bundled_faces(), {Depth::Seat, nullptr, stop.get_token()}).error().code,
             ErrorCode::Cancelled);
  }
};

QTEST_APPLESS_MAIN(TestBlockBend)
#include "test_block_bend.moc"
